import { strFromU8, strToU8, unzipSync, zipSync, type Zippable } from 'fflate';
import { archiveLimits } from '@vast-surge/core/format';

/** The date every entry bears, so that one workshop always packs to the same bytes: the first that the format can hold. */
const noDate = new Date(1980, 0, 1);

/** Packs files by path into one ZIP file. The same files always give the same bytes. */
export function pack(files: ReadonlyMap<string, string>): Uint8Array {
  const entries: Zippable = {};
  for (const path of [...files.keys()].sort()) entries[path] = [strToU8(files.get(path) ?? ''), { mtime: noDate, level: 6 }];
  return zipSync(entries);
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
 * @throws UnreadablePack where it is none, is cut short, or would unpack to more than {@link archiveLimits} allow
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
  return new Map(Object.entries(unpacked).map(([path, content]) => [path, strFromU8(content)]));
}
