import { z } from 'zod';
import { lotSchema, partSchema, type Lot, type Part } from '../part/index.ts';
import { fieldIssues, forbiddenKey, wordFileIssue, type FileIssue } from './rig-file.ts';

/** The newest version of a part and a lot as they are kept and filed. */
export const partFileVersion = 1;
export const partFileMark = 'vast-surge-parts';
/** Room for a bench of ten thousand parts with their readings. */
export const partFileLimit = 32 * 1024 * 1024;

/** Something kept: readable, or as plain data that this program cannot read. Such data is carried along unchanged. */
export type KeptNoun<T> =
  { readonly ok: true; readonly value: T } | { readonly ok: false; readonly data: object; readonly reason: string };

/** Most characters of a photo of a part, as a data URL. */
export const photoLimit = 400_000;

/** A small picture as a data URL: JPEG, PNG or WebP. */
export const photoSchema = z
  .string()
  .regex(/^data:image\/(jpeg|png|webp);base64,[A-Za-z0-9+/]+=*$/, {
    error: () => 'must be a JPEG, PNG or WebP picture as a data URL',
  })
  .max(photoLimit, { error: () => 'must be at most 300 KiB' });

export interface PartRecord {
  readonly id: string;
  readonly version: number;
  readonly createdAt: string;
  readonly updatedAt: string;
  /** When it was taken off the bench; null while it is there. */
  readonly removedAt: string | null;
  readonly photo: string | null;
  readonly part: KeptNoun<Part>;
}

export interface LotRecord {
  readonly id: string;
  readonly version: number;
  readonly createdAt: string;
  readonly updatedAt: string;
  /** When it was taken away; null while it is there. */
  readonly removedAt: string | null;
  readonly lot: KeptNoun<Lot>;
}

/** A file of parts that was taken in, so that it is known when it comes again. */
export interface PartFileRecord {
  /** Its SHA-256. */
  readonly digest: string;
  readonly name: string;
  readonly parts: number;
  readonly takenAt: string;
}

function read<T>(schema: z.ZodType<T>, data: unknown): KeptNoun<T> {
  const object = (typeof data === 'object' && data !== null ? data : {}) as object;
  const key = forbiddenKey(data);
  if (key !== null) return { ok: false, data: {}, reason: `holds the key "${key}"` };
  const result = schema.safeParse(object);
  if (result.success) return { ok: true, value: result.data };
  return { ok: false, data: object, reason: fieldIssues(result.error).map(wordFileIssue).join('; ').slice(0, 400) };
}

export const readPart = (data: unknown): KeptNoun<Part> => read(partSchema, data);
export const readLot = (data: unknown): KeptNoun<Lot> => read(lotSchema, data);

/** As it is stored and sent, readable or not. */
export const keptData = <T extends object>(kept: KeptNoun<T>): object => (kept.ok ? kept.value : kept.data);

const instant = z.iso.datetime({ error: () => 'must be a date and time in UTC' });
const record = { id: z.uuid(), version: z.int().positive(), createdAt: instant, updatedAt: instant };

export const partRecordSchema = z.strictObject({
  ...record,
  removedAt: instant.nullable(),
  photo: photoSchema.nullable(),
  part: z.looseObject({}),
});
export const lotRecordSchema = z.strictObject({
  ...record,
  // Up to version 3 of the archive there were none that were removed.
  removedAt: instant.nullable().default(null),
  lot: z.looseObject({}),
});
export const partFileRecordSchema = z.strictObject({
  digest: z.string().regex(/^[0-9a-f]{64}$/, { error: () => 'must be a SHA-256' }),
  name: z.string(),
  parts: z.int().min(0),
  takenAt: instant,
});

/** Parts and lots as a file of their own, for another bench. */
export interface PartFile {
  readonly parts: readonly { readonly id: string; readonly part: Part }[];
  readonly lots: readonly { readonly id: string; readonly lot: Lot }[];
}

const partFileSchema = z.strictObject({
  format: z.literal(partFileMark),
  version: z.literal(partFileVersion),
  lots: z.array(z.strictObject({ id: z.uuid(), lot: lotSchema })).max(10_000),
  parts: z.array(z.strictObject({ id: z.uuid(), part: partSchema })).max(20_000),
});

export type ReadPartFile =
  { readonly ok: true; readonly file: PartFile } | { readonly ok: false; readonly issues: readonly FileIssue[] };

/** Reads a file of parts. It never throws. */
export function readPartFile(text: string): ReadPartFile {
  const refuse = (...issues: FileIssue[]): ReadPartFile => ({ ok: false, issues });
  if (text.length > partFileLimit) return refuse({ code: 'too_large', bytes: text.length, limit: partFileLimit });
  let data: unknown;
  try {
    data = JSON.parse(text.replace(/^\uFEFF/, ''));
  } catch (error) {
    return refuse({ code: 'not_json', detail: error instanceof Error ? error.message.slice(0, 120) : 'unreadable' });
  }
  const key = forbiddenKey(data);
  if (key !== null) return refuse({ code: 'forbidden_key', key });
  const head = z.object({ format: z.literal(partFileMark), version: z.unknown() }).safeParse(data);
  if (!head.success) return refuse({ code: 'field', path: 'format', reason: `must be "${partFileMark}"` });
  if (typeof head.data.version === 'number' && head.data.version > partFileVersion)
    return refuse({ code: 'newer_version', found: head.data.version, known: partFileVersion });
  const result = partFileSchema.safeParse(data);
  if (!result.success) return refuse(...fieldIssues(result.error));
  return { ok: true, file: { parts: result.data.parts, lots: result.data.lots } };
}

/** Always the same bytes for the same parts. */
export const writePartFile = ({ parts, lots }: PartFile): string =>
  `${JSON.stringify({ format: partFileMark, version: partFileVersion, lots, parts }, null, 1)}\n`;
