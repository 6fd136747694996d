import { z } from 'zod';
import {
  addCheckSchema,
  addEntrySchema,
  addFileSchema,
  addReadingSchema,
  appendEventsSchema,
  archiveRigSchema,
  askedSchema,
  askFileSchema,
  askSchema,
  backupsSchema,
  benchSchema,
  closeRevisionSchema,
  createCampaignSchema,
  createdPartsSchema,
  createRigSchema,
  createRunSchema,
  createShotSchema,
  draftSchema,
  fileTakenSchema,
  healthSchema,
  importArchiveSchema,
  importedSchema,
  instrumentSchema,
  lotDraftSchema,
  measuredSchema,
  measureSchema,
  pageLimit,
  pageOfSchema,
  partEditSchema,
  partsReceiptSchema,
  photoBodySchema,
  rehearsedSchema,
  removePartsSchema,
  removeShotSchema,
  revisionHeadSchema,
  revisionRowSchema,
  revisionSchema,
  rigHeadSchema,
  rigReceiptSchema,
  rigSorts,
  rigUseSchema,
  runHeadSchema,
  runTailSchema,
  saveLotSchema,
  saveRigSchema,
  saveShotSchema,
  setBackupsSchema,
  shotFileSchema,
  shotRigSchema,
  bookedSchema,
  storedCampaignHeads,
  storedCampaignSchema,
  storedChecksSchema,
  storedRigSchema,
  storedRunSchema,
  storedShotSchema,
  strikeReadingSchema,
  uploadedSchema,
} from '@vast-surge/contract';
import { outcomes } from '@vast-surge/core/run';
import { runKinds } from '../../db/runs.ts';

type Method = 'get' | 'post' | 'put' | 'patch' | 'delete';

/** One route of the API, as its page tells it. */
export interface ApiRoute {
  readonly method: Method;
  /** As Express writes it. */
  readonly path: string;
  readonly about: string;
  readonly query?: Readonly<Record<string, z.ZodType>>;
  /** JSON, or a file as it is. */
  readonly body?: z.ZodType | 'application/zip';
  /** Of a success: its status, and JSON, or a file. */
  readonly answer: readonly [status: number, body: z.ZodType | 'application/zip' | 'text/event-stream'];
  /** Whether it carries a key, so that a repetition is done once. */
  readonly writes?: true;
}

const words = z.string().max(200).describe('Words that have to stand in it.');
const page = {
  limit: z.int().min(1).max(pageLimit).describe('Rows of a page.'),
  after: z.string().max(500).describe('The `next` of the page before.'),
};
const numbered = { after: z.int().min(0).describe('What came after this number; 0 for everything.') };
const idSchema = z.object({ id: z.uuid() });

/** Routes that change nothing. */
const reads: readonly ApiRoute[] = [
  {
    method: 'get',
    path: '/health',
    about: 'How the program stands. 503 with the same body where it cannot work.',
    answer: [200, healthSchema],
  },
  {
    method: 'get',
    path: '/live',
    about:
      'Tells as it happens that something was written: tables with ids, of many rows none. An event `all` says that everything may have changed.',
    answer: [200, 'text/event-stream'],
  },
  {
    method: 'get',
    path: '/archive',
    about: 'Everything in one file, read back before it is sent.',
    answer: [200, 'application/zip'],
  },
  {
    method: 'get',
    path: '/archive/rigs/:id',
    about: 'One rig with its revisions, runs and shots.',
    answer: [200, 'application/zip'],
  },
  {
    method: 'get',
    path: '/backups',
    about: 'Backups that were made, and their schedule.',
    answer: [200, backupsSchema],
  },
  {
    method: 'get',
    path: '/parts',
    about: 'The parts bench, or what changed of it.',
    query: numbered,
    answer: [200, benchSchema],
  },
  {
    method: 'get',
    path: '/parts/:id/photo',
    about: 'The photo of a part as a data URL.',
    answer: [200, z.object({ photo: z.string().nullable() })],
  },
  {
    method: 'get',
    path: '/rigs',
    about: 'Rigs with the numbers a list shows.',
    query: { q: words, archived: z.enum(['true', 'false']), sort: z.enum(rigSorts), ...page },
    answer: [200, pageOfSchema(rigHeadSchema)],
  },
  { method: 'get', path: '/rigs/uses', about: 'Which rigs use which parts of the shelf.', answer: [200, z.array(rigUseSchema)] },
  { method: 'get', path: '/rigs/:id', about: 'A rig with its document.', answer: [200, storedRigSchema] },
  {
    method: 'get',
    path: '/rigs/:id/revisions',
    about: 'Its revisions, the newest first.',
    answer: [200, z.array(revisionRowSchema)],
  },
  { method: 'get', path: '/revisions/:id', about: 'A revision with its document.', answer: [200, revisionSchema] },
  {
    method: 'get',
    path: '/runs',
    about: 'Runs and rehearsals, the newest first.',
    query: { rig: z.uuid(), kind: z.enum(runKinds), q: words, ...page },
    answer: [200, pageOfSchema(runHeadSchema)],
  },
  { method: 'get', path: '/runs/open', about: 'Live runs whose store may be charged.', answer: [200, z.array(runHeadSchema)] },
  { method: 'get', path: '/runs/people', about: 'Rehearsals that ended, by who acted.', answer: [200, z.array(rehearsedSchema)] },
  { method: 'get', path: '/runs/:id', about: 'A run with its plan and events.', answer: [200, storedRunSchema] },
  { method: 'get', path: '/runs/:id/events', about: 'Events after a number.', query: numbered, answer: [200, runTailSchema] },
  {
    method: 'get',
    path: '/shots',
    about: 'The shot book, the newest first.',
    query: { rig: z.uuid(), outcome: z.enum(outcomes), q: words, ...page },
    answer: [200, pageOfSchema(storedShotSchema)],
  },
  {
    method: 'get',
    path: '/campaigns',
    about: 'Campaigns of a rig, the newest first.',
    query: { rig: z.uuid() },
    answer: [200, storedCampaignHeads],
  },
  {
    method: 'get',
    path: '/campaigns/booked',
    about: 'Hours of campaigns that are not closed, of every rig. Moments in ms since 1970, lengths in s.',
    answer: [200, bookedSchema],
  },
  { method: 'get', path: '/campaigns/:id', about: 'A campaign, its book and its shots.', answer: [200, storedCampaignSchema] },
  {
    method: 'get',
    path: '/checks',
    about: 'Checks of the workshop that were made, the newest first.',
    answer: [200, storedChecksSchema],
  },
  { method: 'get', path: '/shots/rigs', about: 'Rigs that have shots.', answer: [200, z.array(shotRigSchema)] },
  { method: 'get', path: '/shots/:id', about: 'A shot: set, predicted, measured.', answer: [200, storedShotSchema] },
  { method: 'get', path: '/shots/files/:id', about: 'A trace or a photo of a shot.', answer: [200, shotFileSchema] },
  {
    method: 'get',
    path: '/instruments',
    about: 'Instruments that may be asked; with a run, the stand-ins of that rehearsal.',
    query: { run: z.uuid() },
    answer: [200, z.array(instrumentSchema)],
  },
  { method: 'get', path: '/openapi.json', about: 'This description.', answer: [200, z.looseObject({})] },
  {
    method: 'post',
    path: '/archive/uploads',
    about: 'What an archive would bring. Nothing is written; it is kept for an hour.',
    body: 'application/zip',
    answer: [201, uploadedSchema],
  },
  {
    method: 'post',
    path: '/parts/files',
    about: 'Whether a file of parts was taken in before.',
    body: askFileSchema,
    answer: [200, fileTakenSchema],
  },
  {
    method: 'post',
    path: '/runs/:id/ask',
    about: 'One command to an instrument, of those it lists: none switches a charger on.',
    body: askSchema,
    answer: [200, askedSchema],
  },
  {
    method: 'post',
    path: '/runs/:id/measure',
    about: 'What an instrument reads.',
    body: measureSchema,
    answer: [200, measuredSchema],
  },
];

type Write = Omit<ApiRoute, 'writes'>;
const write = (route: Write): ApiRoute => ({ ...route, writes: true });

const writes: readonly ApiRoute[] = (
  [
    {
      method: 'post',
      path: '/archive/uploads/:id/import',
      about: 'Takes in what was chosen of it: all of it, or nothing.',
      body: importArchiveSchema,
      answer: [200, importedSchema],
    },
    { method: 'put', path: '/backups', about: 'Scheduled backups.', body: setBackupsSchema, answer: [200, backupsSchema] },
    {
      method: 'post',
      path: '/parts',
      about: 'New parts and lots: all of them, or none.',
      body: z.object({
        parts: z.array(draftSchema),
        lots: z.array(lotDraftSchema),
        file: z.object({ digest: z.string(), name: z.string() }).optional(),
      }),
      answer: [201, createdPartsSchema],
    },
    {
      method: 'patch',
      path: '/parts',
      about: 'Changes of fields. A field that no longer holds what `was` says is a conflict.',
      body: z.object({ edits: z.array(partEditSchema) }),
      answer: [200, partsReceiptSchema],
    },
    {
      method: 'post',
      path: '/parts/readings',
      about: 'Readings are added to those that are there.',
      body: z.object({ readings: z.array(addReadingSchema) }),
      answer: [200, partsReceiptSchema],
    },
    {
      method: 'patch',
      path: '/parts/:id/readings/:index',
      about: 'Strikes a reading out, or lets it count again.',
      body: strikeReadingSchema,
      answer: [200, partsReceiptSchema],
    },
    {
      method: 'post',
      path: '/parts/removals',
      about: 'Takes parts off the bench, or puts them back.',
      body: removePartsSchema,
      answer: [200, partsReceiptSchema],
    },
    {
      method: 'put',
      path: '/parts/:id/photo',
      about: 'The photo of a part; null takes it away.',
      body: photoBodySchema,
      answer: [200, partsReceiptSchema],
    },
    {
      method: 'put',
      path: '/lots/:id',
      about: 'A new lot where `version` is 0, else its next version.',
      body: saveLotSchema,
      answer: [200, z.object({ version: z.int().positive() })],
    },
    { method: 'delete', path: '/lots/:id', about: 'A lot that no part is booked on.', answer: [200, partsReceiptSchema] },
    {
      method: 'post',
      path: '/rigs',
      about: 'A new rig. The sender makes its id.',
      body: createRigSchema,
      answer: [201, rigReceiptSchema],
    },
    {
      method: 'put',
      path: '/rigs/:id',
      about: 'Its next version; `version` is the one this builds on.',
      body: saveRigSchema,
      answer: [200, rigReceiptSchema],
    },
    {
      method: 'patch',
      path: '/rigs/:id',
      about: 'Removed, or restored.',
      body: archiveRigSchema,
      answer: [200, rigReceiptSchema],
    },
    {
      method: 'post',
      path: '/rigs/:id/revisions',
      about: 'Closes its edits into a revision.',
      body: closeRevisionSchema,
      answer: [201, revisionHeadSchema],
    },
    {
      method: 'post',
      path: '/runs',
      about: 'Begins a run or a rehearsal of what the rig is now.',
      body: createRunSchema,
      answer: [201, runHeadSchema],
    },
    {
      method: 'post',
      path: '/runs/:id/events',
      about: 'What was done, in order. What is here already is passed over.',
      query: numbered,
      body: appendEventsSchema,
      answer: [200, runTailSchema],
    },
    {
      method: 'post',
      path: '/campaigns',
      about: 'A campaign of what the rig is now.',
      body: createCampaignSchema,
      answer: [201, storedCampaignSchema],
    },
    {
      method: 'post',
      path: '/campaigns/:id/entries',
      about: 'One more line of its book.',
      body: addEntrySchema,
      answer: [201, storedCampaignSchema],
    },
    { method: 'post', path: '/checks', about: 'A check that was made.', body: addCheckSchema, answer: [201, storedChecksSchema] },
    {
      method: 'post',
      path: '/shots',
      about: 'A shot of what the rig is now, or was in a run.',
      body: createShotSchema,
      answer: [201, storedShotSchema],
    },
    { method: 'put', path: '/shots/:id', about: 'Its next version.', body: saveShotSchema, answer: [200, storedShotSchema] },
    { method: 'patch', path: '/shots/:id', about: 'Removed, or restored.', body: removeShotSchema, answer: [200, idSchema] },
    {
      method: 'post',
      path: '/shots/:id/files',
      about: 'A trace or a photo.',
      body: addFileSchema,
      answer: [201, storedShotSchema],
    },
    { method: 'delete', path: '/shots/files/:id', about: 'Takes a file away.', answer: [200, idSchema] },
  ] satisfies Write[]
).map(write);

/** Every route of the API; a test holds it against those that are served. */
export const apiRoutes: readonly ApiRoute[] = [...reads, ...writes];
