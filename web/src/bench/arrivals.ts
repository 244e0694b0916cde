/** Files that come in: which of them are shapes, what goes with each, what is missing, and what will be kept of them. */
import type { OperatorList } from '../api/client'

type Format = OperatorList['formats'][string]

export interface Arrival {
  file: File
  /** Null for a package, and for what no format reads. */
  format: Format | null
  isPackage: boolean
  /** Names of the files that were taken in. */
  parts: string[]
  /** Files that it names and that are not here. */
  missing: string[]
  /** Whether there is something to know or to choose before it is read. */
  asks: boolean
}

/** Files that may be a part of others: bytes and pictures of a glTF, materials of an OBJ. */
const BYTES = /\.(bin|ktx2|webp)$/i
const MATERIALS = /\.mtl$/i
/** How a material of an OBJ stands inside of it. */
const INSIDE = '#mtl '

/** The ending of a file's name, which says its format. */
export const endingOf = (name: string) => name.split('.').at(-1)!.toLowerCase()
const baseOf = (uri: string) => decodeURIComponent(uri).split('/').at(-1)!

export const asData = (file: File): Promise<string> =>
  new Promise((resolve, reject) => {
    const reader = new FileReader()
    reader.onload = () => {
      const read = typeof reader.result === 'string' ? reader.result : ''
      resolve(`data:application/octet-stream;base64,${read.split(',')[1] ?? ''}`)
    }
    reader.onerror = () => reject(new Error(`${file.name} cannot be read`))
    reader.readAsDataURL(file)
  })

type Whole = Pick<Arrival, 'file' | 'parts' | 'missing'>

/** A glTF with the buffers it names inside, as far as they are among the files. */
async function gltf(file: File, others: Map<string, File>, read: (file: File) => Promise<string>): Promise<Whole> {
  const [parts, missing]: string[][] = [[], []]
  let told: { buffers?: { uri?: string }[] }
  try {
    told = JSON.parse(await file.text()) as typeof told
  } catch {
    return { file, parts: [], missing: [] }
  }
  for (const buffer of Array.isArray(told.buffers) ? told.buffers : []) {
    if (!buffer.uri || buffer.uri.startsWith('data:')) continue
    const name = baseOf(buffer.uri)
    const part = others.get(name)
    if (part) buffer.uri = await read(part)
    ;(part ? parts! : missing!).push(name)
  }
  const whole = parts!.length ? new File([JSON.stringify(told)], file.name, { type: file.type }) : file
  return { file: whole, parts: parts!, missing: missing! }
}

/** An OBJ with its materials inside, as remarks that the reader knows. */
async function obj(file: File, others: Map<string, File>): Promise<Whole> {
  const [parts, missing]: string[][] = [[], []]
  const text = await file.text()
  const pieces: string[] = []
  for (const [, uri] of text.matchAll(/^mtllib[ \t]+(.+?)[ \t\r]*$/gm)) {
    const name = baseOf(uri!.replaceAll('\\', '/'))
    const part = others.get(name)
    if (part) pieces.push(...(await part.text()).split(/\r?\n/).map((line) => INSIDE + line))
    ;(part ? parts! : missing!).push(name)
  }
  const whole = pieces.length ? new File([`${text}\n${pieces.join('\n')}\n`], file.name, { type: file.type }) : file
  return { file: whole, parts: parts!, missing: missing! }
}

async function whole(file: File, others: Map<string, File>, read: typeof asData): Promise<Whole> {
  if (/\.gltf$/i.test(file.name)) return gltf(file, others, read)
  if (/\.obj$/i.test(file.name)) return obj(file, others)
  return { file, parts: [], missing: [] }
}

/** Names of the pictures that a glTF or the materials of an OBJ put on surfaces: these are no heights to be read. */
async function texturesOf(files: readonly File[]): Promise<Set<string>> {
  const found = new Set<string>()
  for (const file of files) {
    if (MATERIALS.test(file.name))
      for (const [, line] of (await file.text()).matchAll(/^[ \t]*(?:map_\w+|bump|disp|norm)[ \t]+(.+?)[ \t\r]*$/gim))
        found.add(
          baseOf(line!.replaceAll('\\', '/'))
            .split(/[ \t]+/)
            .at(-1)!,
        )
    if (/\.gltf$/i.test(file.name))
      for (const [, uri] of (await file.text()).matchAll(/"uri"\s*:\s*"([^"]+)"/g))
        if (!uri!.startsWith('data:')) found.add(baseOf(uri!))
  }
  return found
}

/** What comes of files that were dropped or chosen together; those that only go with another one are taken in or left out. */
export async function arrivalsOf(
  files: readonly File[],
  formats: OperatorList['formats'],
  read = asData,
): Promise<Arrival[]> {
  const others = new Map(files.map((file) => [file.name, file]))
  const textures = await texturesOf(files)
  const isPart = ({ name }: File) => BYTES.test(name) || MATERIALS.test(name) || textures.has(name)
  const alone = files.filter((file) => !isPart(file))
  return Promise.all(
    (alone.length ? alone : files).map(async (file) => {
      const isPackage = /\.zip$/i.test(file.name)
      const format = formats[endingOf(file.name)] ?? null
      const made = await whole(file, others, read)
      const asks = !isPackage && (!format || format.keeps !== 'everything' || made.missing.length > 0)
      return { ...made, format, isPackage, asks }
    }),
  )
}
