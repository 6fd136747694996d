import { createHash } from 'node:crypto';
import { crc32 } from 'node:zlib';
import { Entry, openPromise, type ZipFile } from 'yauzl';
import { ArchiveRefused, type ArchiveSource } from '@vast-surge/core/format';
import { looseRatio, sumsPath } from './zip-limits.ts';

export interface ZipLimits {
  /** Bytes that one entry may unpack to. */
  readonly entry: number;
  /** Bytes that all of them may unpack to, for each byte of the file; none for a file of one's own. */
  readonly ratio: number | null;
}

/** A backup of one's own: as large as it likes, an entry at a time. The limit is that of a text in memory. */
export const ownFile: ZipLimits = { entry: 480 * 1024 * 1024, ratio: null };
/** A file that a page sent: nothing that looks like another thing than a workshop is unpacked. */
export const sentFile: ZipLimits = { entry: 64 * 1024 * 1024, ratio: 60 };

/** So much may come out of any file, however small it is. */
const freeBytes = 64 * 1024 * 1024;

const notComplete = (why: string) => new ArchiveRefused('archive', `is not a complete ZIP file: ${why}`);

const megabytes = (n: number) => `${(n / 1e6).toPrecision(3)} MB`;

/** What is kept of an entry: a long directory would else fill the memory. */
function lightEntry(entry: Entry): Entry {
  const { compressedSize, uncompressedSize, compressionMethod, generalPurposeBitFlag, relativeOffsetOfLocalHeader } = entry;
  const kept = { compressedSize, uncompressedSize, compressionMethod, generalPurposeBitFlag, relativeOffsetOfLocalHeader };
  return Object.assign(Object.create(Entry.prototype) as Entry, kept, { crc32: entry.crc32, extraFields: [] });
}

/** The directory of a file, held against the limits before anything is unpacked. @throws ArchiveRefused */
async function directory(zip: ZipFile, limits: ZipLimits): Promise<Map<string, Entry>> {
  const entries = new Map<string, Entry>();
  let plain = 0;
  for await (const entry of zip.eachEntry()) {
    const { fileName, uncompressedSize, compressedSize } = entry;
    const name = fileName.slice(0, 100);
    if (entries.has(fileName)) throw new ArchiveRefused(name, 'is in it twice');
    if (entry.isEncrypted()) throw new ArchiveRefused(name, 'is encrypted');
    if (uncompressedSize > limits.entry)
      throw new ArchiveRefused(
        name,
        `unpacks to ${megabytes(uncompressedSize)}, and no file of an archive has more than ${megabytes(limits.entry)}`,
      );
    if (limits.ratio !== null && uncompressedSize > 1024 * 1024 && uncompressedSize > looseRatio * compressedSize)
      throw new ArchiveRefused(
        name,
        `unpacks to ${Math.round(uncompressedSize / compressedSize)} times its size: no record does that`,
      );
    plain += uncompressedSize;
    if (limits.ratio !== null && plain > Math.max(freeBytes, limits.ratio * zip.fileSize))
      throw new ArchiveRefused(
        'archive',
        `unpacks to more than ${megabytes(plain)} from ${megabytes(zip.fileSize)}: it holds more than any workshop`,
      );
    entries.set(fileName, lightEntry(entry));
  }
  // Entries that lie over each other would give more than is there.
  const byPlace = [...entries].sort(([, a], [, b]) => a.relativeOffsetOfLocalHeader - b.relativeOffsetOfLocalHeader);
  let end = 0;
  for (const [path, { relativeOffsetOfLocalHeader: at, compressedSize }] of byPlace) {
    if (at < end)
      throw new ArchiveRefused(path.slice(0, 100), 'lies over another entry: it is not a ZIP file that any program wrote');
    end = at + 30 + Buffer.byteLength(path) + compressedSize;
  }
  return entries;
}

const readSums = (text: string): Map<string, string> =>
  new Map(
    text
      .split('\n')
      .filter(Boolean)
      .map((line) => [line.slice(66), line.slice(0, 64)]),
  );

const decoder = new TextDecoder('utf-8', { fatal: true });

/** An archive file that is open: its entries are unpacked one at a time, each held against its sum. */
export interface OpenArchive extends ArchiveSource {
  close(): void;
}

/**
 * Opens a ZIP file of texts.
 *
 * @throws ArchiveRefused where it is none, is cut short, or would unpack to more than the limits allow; reading an entry throws it too,
 * where the entry is not as its sum says
 */
export async function openArchive(path: string, limits: ZipLimits): Promise<OpenArchive> {
  let zip: ZipFile;
  try {
    zip = await openPromise(path, { lazyEntries: true, autoClose: false, validateEntrySizes: true, strictFileNames: true });
  } catch (error) {
    throw notComplete(error instanceof Error ? error.message : 'it cannot be read');
  }
  try {
    const entries = await directory(zip, limits).catch((error: unknown) => {
      if (error instanceof ArchiveRefused) throw error;
      throw notComplete(error instanceof Error ? error.message : 'it cannot be read');
    });
    const bytesOf = async (entryPath: string): Promise<Buffer> => {
      const entry = entries.get(entryPath);
      if (!entry) throw new ArchiveRefused(entryPath, 'is missing');
      const pieces: Buffer[] = [];
      try {
        for await (const piece of await zip.openReadStreamPromise(entry)) pieces.push(piece as Buffer);
      } catch (error) {
        throw new ArchiveRefused(entryPath, `cannot be unpacked: ${error instanceof Error ? error.message : 'no reason given'}`);
      }
      const bytes = Buffer.concat(pieces);
      if (crc32(bytes) !== entry.crc32) throw new ArchiveRefused(entryPath, `is not as it was written: the file is damaged`);
      return bytes;
    };
    const sums = entries.has(sumsPath) ? readSums((await bytesOf(sumsPath)).toString('utf8')) : new Map<string, string>();
    // A digit that changed on a stick or a disk would be a wrong number in a rig: every entry that has a sum must be there and have it.
    for (const entryPath of sums.keys())
      if (!entries.has(entryPath)) throw new ArchiveRefused(entryPath.slice(0, 100), 'is missing, and checksums.txt names it');
    return {
      paths: [...entries.keys()].filter((p) => p !== sumsPath),
      text: async (entryPath) => {
        const bytes = await bytesOf(entryPath);
        const sum = sums.get(entryPath);
        if (sum !== undefined && createHash('sha256').update(bytes).digest('hex') !== sum)
          throw new ArchiveRefused(
            entryPath,
            `is not as it was written: the file is damaged, or was changed without ${sumsPath}`,
          );
        try {
          return decoder.decode(bytes);
        } catch {
          throw new ArchiveRefused(entryPath, 'is not text in UTF-8');
        }
      },
      close: () => zip.close(),
    };
  } catch (error) {
    zip.close();
    throw error;
  }
}
