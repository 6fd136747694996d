import { createHash } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { open, rename, rm } from 'node:fs/promises';
import { Readable } from 'node:stream';
import { finished } from 'node:stream/promises';
import { promisify } from 'node:util';
import { deflateRaw } from 'node:zlib';
import { ZipFile } from 'yazl';
import { looseRatio, sumsPath } from './zip-limits.ts';

/** The date every entry bears, so that one workshop always packs to the same bytes: the first that the format can hold. */
const noDate = new Date(1980, 0, 1);

const deflated = promisify<Buffer, Buffer>(deflateRaw);

/** Smaller ones are never worth a look. */
const bigEntry = 1024 * 1024;

/** In pieces: a stream of one piece of megabytes would be held twice. */
function* inPieces(bytes: Buffer): Generator<Buffer> {
  for (let at = 0; at < bytes.length; at += 65_536) yield bytes.subarray(at, at + 65_536);
}

/** Whether any of a few samples shrinks beyond what a reader believes: such an entry is kept as it is. */
async function shrinksTooWell(bytes: Buffer): Promise<boolean> {
  for (const part of [0, 0.25, 0.5, 0.75]) {
    const sample = bytes.subarray(Math.floor(part * bytes.length), Math.floor(part * bytes.length) + 65_536);
    if (sample.length / (await deflated(sample)).length > looseRatio / 2) return true;
  }
  return false;
}

/**
 * A ZIP file that is written entry by entry, each with its sum, into a file of another name that takes its own at the end. One entry is in
 * memory at a time. The same entries always give the same bytes.
 */
export class ZipWriter {
  private readonly zip = new ZipFile();
  private readonly part: string;
  private readonly done: Promise<void>;
  /** Tells the entry that is under way that the file failed. */
  private broken: ((error: unknown) => void) | null = null;
  private failure: unknown = null;
  private sums = '';
  private entries = 0;

  constructor(private readonly path: string) {
    this.part = `${path}.part`;
    const out = createWriteStream(this.part, { mode: 0o600 });
    this.done = finished(out);
    // A file that cannot be written is told to the entry under way, or to the next.
    this.done.catch((error: unknown) => {
      this.failure = error;
      this.broken?.(error);
    });
    this.zip.outputStream.pipe(out);
  }

  /** Puts a stream in and waits until all of it went through. */
  private async put(path: string, compress: boolean, source: () => Readable): Promise<void> {
    this.entries += 1;
    // The packer keeps what it was called with until the file ends: it must lead to nothing that is large.
    const held: { source: (() => Readable) | null } = { source };
    await new Promise<void>((resolve, reject) => {
      this.broken = reject;
      if (this.failure !== null) throw this.failure;
      this.zip.addReadStreamLazy(path, { mtime: noDate, forceDosTimestamp: true, mode: 0o100600, compress }, (give) => {
        const stream = held.source?.() ?? Readable.from([]);
        held.source = null;
        stream.once('error', reject);
        stream.once('close', resolve);
        give(null, stream);
      });
    });
    this.broken = null;
  }

  async add(path: string, text: string): Promise<void> {
    const bytes = Buffer.from(text, 'utf8');
    this.sums += `${createHash('sha256').update(bytes).digest('hex')}  ${path}\n`;
    const compress = bytes.length < bigEntry || !(await shrinksTooWell(bytes));
    await this.put(path, compress, () => Readable.from(inPieces(bytes), { objectMode: false }));
  }

  /** Takes a file in as it stands on the disk, without a sum: for tables that nothing is read from. */
  async addFile(path: string, file: string): Promise<void> {
    await this.put(path, true, () => createReadStream(file));
  }

  /** Ends the file and sees that it is on the disk under its part's name. */
  async close(): Promise<string> {
    if (this.entries > 0) await this.put(sumsPath, true, () => Readable.from([Buffer.from(this.sums)], { objectMode: false }));
    this.zip.end();
    await this.done;
    const file = await open(this.part, 'r+');
    await file.sync();
    await file.close();
    return this.part;
  }

  /** Gives the file its name: from here on it is there, whole. */
  async settle(): Promise<void> {
    await rename(this.part, this.path);
  }

  /** Leaves nothing behind. */
  async drop(): Promise<void> {
    await rm(this.part, { force: true });
  }
}
