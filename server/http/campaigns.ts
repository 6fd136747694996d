import { Router } from 'express';
import { addCheckSchema, addEntrySchema, createCampaignSchema } from '@vast-surge/contract';
import { mostEntries, rigAtSetting, settingAt, type Campaign, type Entry } from '@vast-surge/core/campaign';
import { predictShot, type Shot, type Values } from '@vast-surge/core/shot';
import {
  appendEntry,
  bookedHours,
  campaignRow,
  countEntries,
  findCampaign,
  insertCampaign,
  insertCheck,
  listCampaigns,
  listChecks,
} from '../db/campaigns.ts';
import { closeRevision, type KeptRevision } from '../db/revisions.ts';
import type { Pool, Queryable } from '../db/pool.ts';
import { HttpFault } from './fault.ts';
import { expectVersion } from './rigs.ts';
import { bodyOf, found, idOf, writes, wrongFields } from './write.ts';

/** The campaign that a shot says it belongs to; null of one that belongs to none. @throws HttpFault where it cannot belong to it */
export async function campaignOfShot(
  client: Queryable,
  rigId: string,
  { campaign: of }: Pick<Shot, 'campaign'>,
): Promise<Campaign | null> {
  if (of === null) return null;
  const row = await campaignRow(client, of.id);
  if (row?.rigId !== rigId) throw wrongFields([{ path: 'shot.campaign.id', reason: 'is not a campaign of this rig' }]);
  if (of.place >= row.campaign.row.length)
    throw wrongFields([
      { path: 'shot.campaign.place', reason: `must be from 0 to ${row.campaign.row.length - 1}: it plans no more shots` },
    ]);
  if (of.setting !== undefined && of.setting >= row.campaign.settings.length)
    throw wrongFields([
      { path: 'shot.campaign.setting', reason: `must be from 0 to ${row.campaign.settings.length - 1}: it has no more settings` },
    ]);
  return row.campaign;
}

/** What is wrong with an entry for its campaign, by its field; null where nothing is. */
function wrongEntry({ row, settings, stocks }: Campaign, entry: Entry): Parameters<typeof wrongFields>[0][number] | null {
  const beyond = (place: number) => place >= row.length;
  const range = `must be from 0 to ${row.length - 1}: it plans no more shots`;
  if (entry.kind === 'dropped' && entry.places.some(beyond)) return { path: 'entry.places', reason: range };
  if (entry.kind === 'setting') {
    if (beyond(entry.place)) return { path: 'entry.place', reason: range };
    if (entry.setting >= settings.length)
      return { path: 'entry.setting', reason: `must be from 0 to ${settings.length - 1}: it has no more settings` };
  }
  if (entry.kind === 'stock' && !stocks.some(({ id }) => id === entry.of))
    return {
      path: 'entry.of',
      reason:
        stocks.length === 0
          ? 'is no stock of this campaign: it counts none'
          : `is no stock of this campaign; it counts ${stocks.map(({ id }) => id).join(', ')}`,
    };
  return null;
}

/** What is calculated for a shot of a revision, at the setting of its place in a campaign; nothing of one that cannot be read. */
export function predictedOf({ document }: KeptRevision, shot: Shot, campaign: Campaign | null): Values {
  if (!document.ok) return {};
  const setting = campaign && settingAt(campaign, shot.campaign);
  return predictShot(setting ? rigAtSetting(document.document.rig, setting.values) : document.document.rig, shot.set);
}

export function campaignRoutes(pool: Pool): Router {
  const routes = Router();
  routes.get('/', async (req, res) => {
    res.json(await listCampaigns(pool, idOf(req.query['rig'], 'rig')));
  });
  routes.get('/booked', async (_req, res) => {
    res.json(await bookedHours(pool));
  });
  routes.get('/:id', async (req, res) => {
    res.json(found(await findCampaign(pool, idOf(req.params.id, 'campaign')), 'campaign'));
  });
  routes.post(
    '/',
    writes(pool, (req) => {
      const { id, rigId, version, campaign } = bodyOf(createCampaignSchema, req.body);
      return async (client) => {
        await expectVersion(client, rigId, version);
        const head = found(await closeRevision(client, crypto.randomUUID(), rigId, null), 'rig');
        if (!(await insertCampaign(client, { id, revisionId: head.id, campaign })))
          throw new HttpFault('conflict', [{ path: 'id', reason: 'is that of a campaign that is here already' }]);
        return { status: 201, body: found(await findCampaign(client, id), 'campaign') };
      };
    }),
  );
  routes.post(
    '/:id/entries',
    writes(pool, (req) => {
      const id = idOf(req.params['id'], 'campaign');
      const { entry } = bodyOf(addEntrySchema, req.body);
      return async (client) => {
        const { campaign } = found(await campaignRow(client, id), 'campaign');
        const wrong = wrongEntry(campaign, entry);
        if (wrong) throw wrongFields([wrong]);
        if ((await countEntries(client, id)) >= mostEntries)
          throw wrongFields([
            { path: 'entry', reason: `is one more than the ${mostEntries} that a book holds: begin another campaign` },
          ]);
        if ((await appendEntry(client, id, entry)) === null)
          throw new HttpFault('conflict', [{ path: 'entry.id', reason: 'is that of an entry that is here already' }]);
        return { status: 201, body: found(await findCampaign(client, id), 'campaign') };
      };
    }),
  );
  return routes;
}

export function checkRoutes(pool: Pool): Router {
  const routes = Router();
  routes.get('/', async (_req, res) => {
    res.json(await listChecks(pool));
  });
  routes.post(
    '/',
    writes(pool, (req) => {
      const { check } = bodyOf(addCheckSchema, req.body);
      return async (client) => {
        if (!(await insertCheck(client, check)))
          throw new HttpFault('conflict', [{ path: 'check.id', reason: 'is that of a check that is here already' }]);
        return { status: 201, body: await listChecks(client) };
      };
    }),
  );
  return routes;
}
