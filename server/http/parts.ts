import { Router } from 'express';
import {
  addReadingSchema,
  addReadingsSchema,
  askFileSchema,
  createPartsSchema,
  draftSchema,
  editPartsSchema,
  lotDraftSchema,
  partEditSchema,
  photoBodySchema,
  removePartsSchema,
  saveLotSchema,
  strikeReadingSchema,
  type Bench,
  type CreatedParts,
  type PartsReceipt,
} from '@vast-surge/contract';
import { photoLimit } from '@vast-surge/core/format';
import type { Part } from '@vast-surge/core/part';
import {
  addReadings,
  benchSince,
  editParts,
  fileTaken,
  insertParts,
  lockBench,
  noteFile,
  PartsRefused,
  photoOf,
  removeLot,
  removeParts,
  rigsUsing,
  saveLot,
  setPhoto,
  strikeReading,
  takenTags,
  withTags,
  type EditRefusal,
} from '../db/parts.ts';
import { isTaken, type Pool, type Queryable } from '../db/pool.ts';
import { inTransaction } from '../db/transaction.ts';
import { HttpFault } from './fault.ts';
import { benchBounds } from './bounds.ts';
import { bodyOf, found, idOf, itemsOf, pictureOf, writes } from './write.ts';

/** Room for ten thousand parts in one request. */
export const partsBodyLimit = 32 * 1024 * 1024;

const refusal = (r: EditRefusal): HttpFault => {
  switch (r.code) {
    case 'no_part':
      return new HttpFault('not_found', [{ path: 'id', reason: `${r.id} is no part here` }], 'There is no such part here.');
    case 'unreadable':
      return new HttpFault('conflict', [{ path: 'id', reason: r.reason }], `This program cannot read that part: ${r.reason}`);
    case 'changed':
      return new HttpFault(
        'conflict',
        [{ path: r.path, reason: `of ${r.tag} was changed elsewhere in the meantime` }],
        `${r.tag}: ${r.path} was changed elsewhere in the meantime; nothing of this was written.`,
      );
    case 'bad_value':
      return new HttpFault('bad_input', [{ path: r.path, reason: r.reason }], `${r.tag}: ${r.path} ${r.reason}`);
  }
};

const tagsTaken = (tags: readonly string[]) =>
  new HttpFault(
    'conflict',
    tags.slice(0, 20).map((tag) => ({ path: 'tag', reason: `${tag} is that of another part on the bench` })),
    `Every part on the bench has a tag of its own, and taken is: ${tags.slice(0, 8).join(', ')}${tags.length > 8 ? ` and ${tags.length - 8} more` : ''}. Nothing was written.`,
  );

/** Says refusals of the bench in the words of the contract. */
async function told<T>(work: Promise<T>): Promise<T> {
  try {
    return await work;
  } catch (error) {
    if (error instanceof PartsRefused) throw refusal(error.refusal);
    if (isTaken(error)) throw tagsTaken(['a tag of this request']);
    throw error;
  }
}

/** @throws HttpFault naming tags that are taken, or that stand twice in the request */
async function expectFreeTags(db: Queryable, parts: readonly { readonly part: Part }[]): Promise<void> {
  const tags = parts.map(({ part }) => part.tag).filter((tag) => tag !== '');
  const seen = new Set<string>();
  const taken = await takenTags(db, tags);
  const bad = tags.filter((tag) => {
    const low = tag.toLowerCase();
    const twice = seen.has(low);
    seen.add(low);
    return twice || taken.has(low);
  });
  if (bad.length > 0) throw tagsTaken([...new Set(bad)]);
}

async function readBench(pool: Pool, mark: number): Promise<Bench> {
  const bench = await inTransaction(pool, (client) => benchSince(client, mark), 'repeatable read');
  return {
    epoch: bench.epoch,
    mark: bench.mark,
    parts: bench.parts.flatMap(({ part, ...rest }) => (part.ok ? [{ ...rest, part: part.value }] : [])),
    lots: bench.lots.flatMap(({ lot, removed, removedAt: _at, ...rest }) =>
      lot.ok && !removed ? [{ ...rest, lot: lot.value }] : [],
    ),
    goneLots: bench.lots.flatMap(({ id, removed }) => (removed ? [id] : [])),
    unreadable: [
      ...bench.parts.flatMap(({ id, part }) => (part.ok ? [] : [{ id, kept: part }])),
      ...bench.lots.flatMap(({ id, lot, removed }) => (lot.ok || removed ? [] : [{ id, kept: lot }])),
    ].map(({ id, kept }) => ({
      id,
      name: String((kept.data as { tag?: unknown }).tag ?? 'unnamed').slice(0, 24),
      unreadable: kept.reason,
    })),
  };
}

const receipt = (changed: number) => ({ status: 200, body: { changed } satisfies PartsReceipt });

export function partRoutes(pool: Pool): Router {
  const routes = Router();
  routes.get('/', async (req, res) => {
    const asked = req.query['after'];
    const after = asked === undefined ? 0 : Number(asked);
    if (!Number.isSafeInteger(after) || after < 0)
      throw new HttpFault('bad_input', [{ path: 'after', reason: 'must be a whole number, 0 or more' }]);
    res.json(await readBench(pool, after));
  });
  routes.post(
    '/',
    writes(pool, async (req) => {
      const { file, ...lists } = bodyOf(createPartsSchema, req.body, benchBounds);
      const parts = await itemsOf(draftSchema, lists.parts, 'parts');
      const lots = await itemsOf(lotDraftSchema, lists.lots, 'lots');
      return async (client) => {
        await lockBench(client);
        for (const { id, lot } of lots)
          if ((await saveLot(client, id, 0, lot)) === null)
            throw new HttpFault('conflict', [{ path: 'lots', reason: `${id} is that of a lot that is here already` }]);
        await expectFreeTags(client, parts);
        const tagged = await withTags(client, parts);
        await insertParts(client, tagged);
        if (file) await noteFile(client, file.digest, file.name, parts.length);
        return { status: 201, body: { tags: tagged.map(({ part }) => part.tag) } satisfies CreatedParts };
      };
    }),
  );
  routes.patch(
    '/',
    writes(pool, async (req) => {
      const edits = await itemsOf(partEditSchema, bodyOf(editPartsSchema, req.body, benchBounds).edits, 'edits');
      return async (client) => receipt(await told(editParts(client, edits)));
    }),
  );
  routes.post(
    '/readings',
    writes(pool, async (req) => {
      const readings = await itemsOf(addReadingSchema, bodyOf(addReadingsSchema, req.body, benchBounds).readings, 'readings');
      return async (client) => receipt(await told(addReadings(client, readings)));
    }),
  );
  routes.patch(
    '/:id/readings/:index',
    writes(pool, (req) => {
      const id = idOf(req.params['id'], 'part');
      const index = Number(req.params['index']);
      const { struck } = bodyOf(strikeReadingSchema, req.body);
      return async (client) => receipt(await told(strikeReading(client, id, index, struck)));
    }),
  );
  routes.post(
    '/removals',
    writes(pool, (req) => {
      const { ids, removed, evenUsed } = bodyOf(removePartsSchema, req.body);
      return async (client) => {
        const used = removed && !evenUsed ? await rigsUsing(client, ids) : [];
        if (used.length > 0) {
          const names = [...new Set(used.map((u) => u.name))];
          throw new HttpFault(
            'conflict',
            used.slice(0, 20).map(({ partId, name }) => ({ path: partId, reason: `is used by the rig ${name}` })),
            `A rig uses it: ${names.join(', ')}. Nothing was removed from the bench.`,
          );
        }
        return receipt(await told(removeParts(client, ids, removed)));
      };
    }),
  );
  routes.post('/files', async (req, res) => {
    res.json(await fileTaken(pool, bodyOf(askFileSchema, req.body).digest));
  });
  routes.get('/:id/photo', async (req, res) => {
    res.json({ photo: await photoOf(pool, idOf(req.params.id, 'part')) });
  });
  routes.put(
    '/:id/photo',
    writes(pool, async (req) => {
      const id = idOf(req.params['id'], 'part');
      const asked = bodyOf(photoBodySchema, req.body).photo;
      const photo = asked === null ? null : await pictureOf(asked, photoLimit, 'photo');
      return async (client) => {
        found((await setPhoto(client, id, photo)) || null, 'part');
        return receipt(1);
      };
    }),
  );
  return routes;
}

export function lotRoutes(pool: Pool): Router {
  const routes = Router();
  routes.put(
    '/:id',
    writes(pool, (req) => {
      const id = idOf(req.params['id'], 'lot');
      const { version, lot } = bodyOf(saveLotSchema, req.body);
      return async (client) => {
        const saved = await saveLot(client, id, version, lot);
        if (saved === null)
          throw new HttpFault(
            'conflict',
            [{ path: 'version', reason: `${version} is not the one that is kept` }],
            'This lot was changed elsewhere in the meantime; nothing was written.',
          );
        return { status: version === 0 ? 201 : 200, body: { version: saved } };
      };
    }),
  );
  routes.delete(
    '/:id',
    writes(pool, (req) => {
      const id = idOf(req.params['id'], 'lot');
      return async (client) => {
        const parts = await removeLot(client, id);
        if (parts > 0)
          throw new HttpFault(
            'conflict',
            [{ path: 'id', reason: `names a lot that ${parts} part${parts === 1 ? '' : 's'} came out of` }],
            `${parts} part${parts === 1 ? ' is' : 's are'} booked on this lot: book ${parts === 1 ? 'it' : 'them'} elsewhere first.`,
          );
        return receipt(1);
      };
    }),
  );
  return routes;
}
