/** Files that come together: a glTF takes in the files that it names, and what only goes with another one is left out. */

interface Buffers {
  buffers?: { uri?: string }[]
}

/** Files that mean nothing by themselves: bytes and pictures of a glTF, materials of an OBJ. */
const PART = /\.(bin|mtl|png|jpe?g|webp|ktx2)$/i

const asData = (file: File): Promise<string> =>
  new Promise((resolve, reject) => {
    const reader = new FileReader()
    reader.onload = () => {
      const read = typeof reader.result === 'string' ? reader.result : ''
      resolve(`data:application/octet-stream;base64,${read.split(',')[1] ?? ''}`)
    }
    reader.onerror = () => reject(new Error(`${file.name} cannot be read`))
    reader.readAsDataURL(file)
  })

/** A glTF with the buffers it names inside, as far as they are among the `parts`; other files as they are. */
async function whole(file: File, parts: Map<string, File>, read: (file: File) => Promise<string>): Promise<File> {
  if (!/\.gltf$/i.test(file.name)) return file
  let told: Buffers
  try {
    told = JSON.parse(await file.text()) as Buffers
  } catch {
    return file
  }
  for (const buffer of Array.isArray(told.buffers) ? told.buffers : []) {
    const part = parts.get(
      decodeURIComponent(buffer.uri ?? '')
        .split('/')
        .at(-1)!,
    )
    if (part) buffer.uri = await read(part)
  }
  return new File([JSON.stringify(told)], file.name, { type: file.type })
}

/** The files to upload one by one, those that only go with another one taken in or left out. */
export async function withParts(files: readonly File[], read = asData): Promise<File[]> {
  const parts = new Map(files.map((file) => [file.name, file]))
  const alone = files.filter((file) => !PART.test(file.name))
  return Promise.all((alone.length ? alone : files).map((file) => whole(file, parts, read)))
}
