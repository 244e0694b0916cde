/** ZIP files, made piece by piece as their entries come. */
import { Zip, ZipDeflate, ZipPassThrough } from 'fflate'

export class ZipFile {
  private readonly pieces: Uint8Array<ArrayBuffer>[] = []
  private trouble: Error | null = null
  private readonly zip = new Zip((error, data) => {
    if (error) this.trouble = error
    else this.pieces.push(new Uint8Array(data))
  })

  /** Add an entry; what is packed already, as pictures are, is not packed again. */
  add(name: string, bytes: Uint8Array, packed: boolean): void {
    const entry = packed ? new ZipPassThrough(name) : new ZipDeflate(name, { level: 1 })
    this.zip.add(entry)
    entry.push(bytes, true)
    if (this.trouble) throw this.trouble
  }

  /** The whole file. */
  end(): Blob {
    this.zip.end()
    if (this.trouble) throw this.trouble
    return new Blob(this.pieces, { type: 'application/zip' })
  }
}
