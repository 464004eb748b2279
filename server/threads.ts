/** What threads of the server do: each is a module here that has a `run`. */
export const THREADS = {
  arrive: 'intake/arrive',
  listen: 'intake/listen',
  compare: 'lineup/compare',
  join: 'lineup/join',
  listenApart: 'speakers/listenApart',
  listenToSide: 'tidy/listenToSide',
  readWords: 'bringing/readWords',
  findSpeech: 'recognise/findSpeech',
  makeLooks: 'patches/makeLooks',
  seekTwins: 'patches/seekTwins',
  treat: 'renditions/treat',
  layBack: 'renditions/layBack',
  makeRendition: 'renditions/make',
  render: 'send/render',
  send: 'send/thread',
} as const

export type ThreadName = keyof typeof THREADS
