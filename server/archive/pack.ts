import { createHash } from 'node:crypto';
import { strFromU8, strToU8, unzipSync, zipSync, type Zippable } from 'fflate';
import { archiveLimits } from '@vast-surge/core/format';

/** The date every entry bears, so that one workshop always packs to the same bytes: the first that the format can hold. */
const noDate = new Date(1980, 0, 1);

/** Sums of all other entries, in the form that `sha256sum -c` reads. */
const sumsPath = 'checksums.txt';

const sumOf = (text: string): string => createHash('sha256').update(text).digest('hex');

const sumsOf = (files: ReadonlyMap<string, string>): string =>
  [...files.keys()]
    .sort()
    .map((path) => `${sumOf(files.get(path) ?? '')}  ${path}\n`)
    .join('');

/** Packs files by path into one ZIP file, with their sums. The same files always give the same bytes. */
export function pack(files: ReadonlyMap<string, string>): Uint8Array {
  const entries: Zippable = {};
  const all = new Map([...files, [sumsPath, sumsOf(files)]]);
  for (const path of [...all.keys()].sort()) entries[path] = [strToU8(all.get(path) ?? ''), { mtime: noDate, level: 6 }];
  return zipSync(entries);
}

/** A digit that changed on a stick or a disk would be a wrong number in a rig: every entry that has a sum must have that sum. */
function verify(files: ReadonlyMap<string, string>): void {
  for (const line of (files.get(sumsPath) ?? '').split('\n').filter(Boolean)) {
    const [sum = '', path = ''] = line.split('  ');
    const text = files.get(path);
    if (text === undefined || sumOf(text) !== sum)
      throw new UnreadablePack(
        `${path.slice(0, 100) || sumsPath} is not as it was written: the file is damaged, or was changed without ${sumsPath}`,
      );
  }
}

/** A file that is no archive, or one beyond all bounds. */
export class UnreadablePack extends Error {
  constructor(reason: string) {
    super(reason);
    this.name = 'UnreadablePack';
  }
}

/**
 * Unpacks a ZIP file of texts.
 *
 * @throws UnreadablePack where it is none, is cut short, has an entry that is not as its sum says, or would unpack to more than {@link archiveLimits} allow
 */
export function unpack(bytes: Uint8Array): Map<string, string> {
  let [count, size] = [0, 0];
  let unpacked: Record<string, Uint8Array>;
  try {
    unpacked = unzipSync(bytes, {
      filter: ({ originalSize }) => {
        count += 1;
        size += originalSize;
        // Judged by what the file itself declares, before anything is made of it.
        if (count > archiveLimits.files || size > archiveLimits.bytes)
          throw new UnreadablePack('it holds more than any workshop');
        return true;
      },
    });
  } catch (error) {
    if (error instanceof UnreadablePack) throw error;
    throw new UnreadablePack('it is not a complete ZIP file');
  }
  const files = new Map(Object.entries(unpacked).map(([path, content]) => [path, strFromU8(content)]));
  verify(files);
  files.delete(sumsPath);
  return files;
}
