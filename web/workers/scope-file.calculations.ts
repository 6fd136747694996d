import { transfer } from 'comlink';
import Papa from 'papaparse';
import {
  guessLayout,
  keptRecord,
  layoutSignature,
  NoScopeFile,
  ScopeReader,
  type KeptRecord,
  type ScopeLayout,
} from '@vast-surge/core/shot';

/** Characters that a layout is guessed from. */
const headLength = 64 * 1024;

export type Answered<T> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly reason: string };

export interface ScopePreview {
  readonly layout: ScopeLayout;
  readonly signature: string;
  /** The first lines of it, as they stand. */
  readonly lines: readonly string[];
}

async function answered<T>(run: () => Promise<T>): Promise<Answered<T>> {
  try {
    return { ok: true, value: await run() };
  } catch (error) {
    if (error instanceof NoScopeFile) return { ok: false, reason: error.message };
    throw error;
  }
}

/** All rows of a file, stretch by stretch, so that it never stands in memory as text as a whole. */
function readRows(file: File, layout: ScopeLayout, onRow: (cells: readonly string[]) => void): Promise<void> {
  let line = 0;
  return new Promise((resolve, reject) => {
    Papa.parse<string[]>(file, {
      delimiter: layout.delimiter,
      skipEmptyLines: false,
      chunkSize: 4 * 1024 * 1024,
      chunk: ({ data }, parser) => {
        try {
          for (const cells of data) {
            if (line++ < layout.headerLines) continue;
            if (cells.length === 1 && (cells[0] ?? '').trim() === '') continue;
            onRow(layout.delimiter === ' ' ? cells.filter((c) => c !== '') : cells);
          }
        } catch (error) {
          // First the refusal: an abort is told as an end like any other.
          reject(error instanceof Error ? error : new Error(String(error)));
          parser.abort();
        }
      },
      complete: () => resolve(),
      error: (error) => reject(error),
    });
  });
}

export const calculations = {
  preview: (file: File): Promise<Answered<ScopePreview>> =>
    answered(async () => {
      const head = await file.slice(0, headLength).text();
      // The last line may be cut off in its middle.
      const whole = file.size > headLength ? head.slice(0, head.lastIndexOf('\n')) : head;
      const layout = guessLayout(whole);
      return { layout, signature: layoutSignature(whole, layout), lines: whole.split(/\r?\n/).slice(0, layout.headerLines + 6) };
    }),

  read: (file: File, layout: ScopeLayout): Promise<Answered<KeptRecord>> =>
    answered(async () => {
      const reader = new ScopeReader(layout);
      await readRows(file, layout, (cells) => reader.row(cells));
      const record = keptRecord(reader.end());
      const buffers = record.channels.flatMap((c) => [c.t.buffer, c.y.buffer, c.meanT.buffer, c.meanY.buffer]);
      return transfer(record, buffers);
    }),
};

export type ScopeFileCalculations = typeof calculations;
