/** Files of whatever was dropped, folders searched through; of a folder, what is plainly no sound is left out. */
export async function dropped(transfer: DataTransfer): Promise<File[]> {
  const entries = [...transfer.items].map((item) => item.webkitGetAsEntry?.() ?? null)
  if (!entries.some(Boolean)) return [...transfer.files]
  const files: File[] = []
  for (const [i, entry] of entries.entries()) {
    if (entry?.isDirectory) files.push(...(await within(entry as FileSystemDirectoryEntry)))
    else if (entry) files.push(await fileOf(entry as FileSystemFileEntry))
    else if (transfer.files[i]) files.push(transfer.files[i])
  }
  return files
}

const NO_SOUND = /^(image|text|font)\/|\.(pdf|zip|xml|json|txt|docx?|jpe?g|png|db|ini|log)$/i

async function within(folder: FileSystemDirectoryEntry): Promise<File[]> {
  const reader = folder.createReader()
  const found: File[] = []
  for (;;) {
    // a folder is handed out some entries at a time
    const entries = await new Promise<FileSystemEntry[]>((resolve, reject) => reader.readEntries(resolve, reject))
    if (!entries.length) break
    for (const entry of entries) {
      if (entry.name.startsWith('.')) continue
      if (entry.isDirectory) found.push(...(await within(entry as FileSystemDirectoryEntry)))
      else found.push(await fileOf(entry as FileSystemFileEntry))
    }
  }
  return found
    .filter((file) => !NO_SOUND.test(file.type) && !NO_SOUND.test(file.name))
    .sort((a, b) => a.name.localeCompare(b.name, undefined, { numeric: true }))
}

const fileOf = (entry: FileSystemFileEntry): Promise<File> => new Promise((resolve, reject) => entry.file(resolve, reject))
