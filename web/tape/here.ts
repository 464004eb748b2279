/** What can be done where one clicks, with nothing selected. */
export const HERE = [
  'play.toggle',
  'edit.mark',
  'edit.star',
  'select.in',
  'select.out',
  'edit.bringBack',
  'words.correct',
  'edit.undo',
  'edit.redo',
  'view.zoomIn',
  'view.zoomOut',
] as const
