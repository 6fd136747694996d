import { z } from 'zod';
import { fieldDefinitions } from '../field/index.ts';
import { blockDefinitions } from '../kind/index.ts';
import { rigDocumentSchema, wholeRig, type RigDocument } from '../rig/index.ts';
import { upgraded } from './upgrade.ts';

/** The newest version of the rig file this program writes and reads. */
export const rigFileVersion = 8;
export const rigFileMark = 'vast-surge-rig';
/** A rig is a few kilobytes; this is far above any. */
export const rigFileLimit = 256 * 1024;

const rigFileSchema = z.strictObject({
  format: z.literal(rigFileMark),
  version: z.literal(rigFileVersion),
  /** Which rig this is, so that a file that comes back is known again; left out, it is a new one. */
  id: z.uuid({ error: () => 'must be the id of a rig, or be left out' }).optional(),
  ...rigDocumentSchema.shape,
});

export type FileIssue =
  | { readonly code: 'too_large'; readonly bytes: number; readonly limit: number }
  | { readonly code: 'not_json'; readonly detail: string }
  | { readonly code: 'forbidden_key'; readonly key: string }
  | { readonly code: 'not_a_rig_file' }
  | { readonly code: 'newer_version'; readonly found: number; readonly known: number }
  | { readonly code: 'bad_version' }
  | { readonly code: 'field'; readonly path: string; readonly reason: string };

export function wordFileIssue(issue: FileIssue): string {
  switch (issue.code) {
    case 'too_large':
      return `The file has ${issue.bytes} bytes; a rig file has at most ${issue.limit}.`;
    case 'not_json':
      return `The file is not complete JSON: ${issue.detail}.`;
    case 'forbidden_key':
      return `The file holds the key "${issue.key}", which no rig file has.`;
    case 'not_a_rig_file':
      return `The file is not a rig file: it must be a JSON object with "format": "${rigFileMark}".`;
    case 'newer_version':
      return `The file is of version ${issue.found}, and this program reads up to version ${issue.known}: use a newer Vast Surge.`;
    case 'bad_version':
      return `"version" must be a whole number from 1 to ${rigFileVersion}.`;
    case 'field':
      return `${issue.path} ${issue.reason}`;
    default:
      return issue satisfies never;
  }
}

export type ReadRigFile =
  | { readonly ok: true; readonly id?: string; readonly document: RigDocument }
  | { readonly ok: false; readonly issues: readonly FileIssue[] };

const forbidden = new Set(['__proto__', 'constructor', 'prototype']);

/** Whether a key could reach an object's prototype. */
export const isForbiddenKey = (key: string): boolean => forbidden.has(key);

/** The first key anywhere in a parsed document that could reach an object's prototype, or null. */
export function forbiddenKey(value: unknown): string | null {
  const open: unknown[] = [value];
  while (open.length > 0) {
    const next = open.pop();
    if (typeof next !== 'object' || next === null) continue;
    for (const key of Object.getOwnPropertyNames(next)) {
      if (isForbiddenKey(key)) return key;
      open.push((next as Record<string, unknown>)[key]);
    }
  }
  return null;
}

const pathText = (path: readonly PropertyKey[]): string =>
  path.map((p, i) => (typeof p === 'number' ? `[${p}]` : i === 0 ? String(p) : `.${String(p)}`)).join('');

/** Fields of the kind of block whose `fields` stand at a path of a rig; null anywhere else. */
function fieldsAt(data: unknown, path: readonly PropertyKey[]): readonly string[] | null {
  const [slot, last] = path.slice(-2);
  if (last !== 'fields') return null;
  const inside = (whole: unknown, key: PropertyKey): unknown => (Object(whole) as Record<PropertyKey, unknown>)[key];
  const kind = inside(path.slice(0, -1).reduce(inside, data), 'kind');
  const known = blockDefinitions.find((definition) => definition.slot === slot && definition.kind === kind);
  return known ? Object.keys(known.fields) : null;
}

/**
 * Schema issues as fields and reasons, for a file or a request body.
 *
 * @param data what was read, so that a block says which fields its kind has
 */
export const fieldIssues = (error: z.ZodError, data?: unknown): Extract<FileIssue, { code: 'field' }>[] =>
  error.issues.slice(0, 20).map((issue) => {
    const path = pathText(issue.path) || 'document';
    // A schema’s own word for what is not there is a programmer’s.
    if (issue.code !== 'unrecognized_keys')
      return { code: 'field', path, reason: issue.message.endsWith('received undefined') ? 'is missing' : issue.message };
    const has = fieldsAt(data, issue.path);
    const reason = `has keys that are not known: ${issue.keys.join(', ').slice(0, 200)}${has ? `; this kind has ${has.join(', ')}` : ''}`;
    return { code: 'field', path, reason };
  });

/**
 * Reads a rig file. Fields left out take their initial values, marked as defaults.
 *
 * @param text the whole file
 * @returns the rig, or every reason why it is none; it never throws
 */
export function readRigFile(text: string): ReadRigFile {
  const refuse = (...issues: FileIssue[]): ReadRigFile => ({ ok: false, issues });
  if (text.length > rigFileLimit) return refuse({ code: 'too_large', bytes: text.length, limit: rigFileLimit });
  let data: unknown;
  try {
    data = JSON.parse(text.replace(/^\uFEFF/, ''));
  } catch (error) {
    return refuse({ code: 'not_json', detail: error instanceof Error ? error.message.slice(0, 120) : 'unreadable' });
  }
  return readRigData(data);
}

/** As {@link readRigFile}, from parsed JSON. */
export function readRigData(data: unknown): ReadRigFile {
  const refuse = (...issues: FileIssue[]): ReadRigFile => ({ ok: false, issues });
  const key = forbiddenKey(data);
  if (key !== null) return refuse({ code: 'forbidden_key', key });
  const head = z.object({ format: z.literal(rigFileMark), version: z.unknown() }).safeParse(data);
  if (!head.success) return refuse({ code: 'not_a_rig_file' });
  const { version } = head.data;
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 1) return refuse({ code: 'bad_version' });
  if (version > rigFileVersion) return refuse({ code: 'newer_version', found: version, known: rigFileVersion });
  const brought = upgraded(data, version);
  const file = rigFileSchema.safeParse(brought);
  if (!file.success) return refuse(...fieldIssues(file.error, brought));
  const { id, name, note, built, sheet, rig } = file.data;
  return { ok: true, ...(id === undefined ? {} : { id }), document: { name, note, built, sheet, rig } };
}

/** A rig as file text: two spaces, one final newline, always the same bytes for the same rig. */
export const writeRigFile = ({ name, note, built, sheet, rig }: RigDocument, id?: string): string =>
  `${JSON.stringify({ format: rigFileMark, version: rigFileVersion, ...(id === undefined ? {} : { id }), name, note, built, sheet, rig: wholeRig(rig) }, null, 2)}\n`;

/** The published schema of the file: what a quantity may be and the parts of a block stand once, under `$defs`. */
export const rigFileJsonSchema = () => {
  const schema = z.toJSONSchema(rigFileSchema, { io: 'input', unrepresentable: 'any' });
  return { ...schema, $defs: { ...schema.$defs, ...fieldDefinitions } };
};
