// What ./surge worker runs: works on the studies of the workshop whose database DATABASE_URL names, until it is ended.
import { readFileSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { openPool } from '../db/pool.ts';
import { fail, messageOf } from '../fail.ts';
import { databaseUrl, expectTables } from '../prepare.ts';
import { programId } from '../program.ts';
import { StudyWorker } from './worker.ts';

function threadsOf(text: string): number {
  const number = Number(text);
  return Number.isInteger(number) && number >= 1 && number <= 256
    ? number
    : fail(`--threads is "${text.slice(0, 40)}"; it must be a whole number from 1 to 256`, 2);
}

async function main(args: string[]): Promise<void> {
  const { values } = parseArgs({
    args,
    options: { threads: { type: 'string', default: String(availableParallelism()) }, host: { type: 'string' } },
  });
  const url = databaseUrl();
  const first = openPool(url, () => undefined, { max: 1 });
  await expectTables(first);
  const { version } = JSON.parse(readFileSync(fileURLToPath(new URL('../../package.json', import.meta.url)), 'utf8')) as {
    version: string;
  };
  const program = programId(version);
  const { rows } = await first.query<{ program: string; studies: number }>(
    "select program, count(*)::int as studies from studies where state = 'asked' and program <> $1 group by program",
    [program],
  );
  await first.end();
  const say = (text: string) => process.stderr.write(`surge: ${text}\n`);
  for (const { program: other, studies } of rows)
    say(
      `${studies} ${studies === 1 ? 'study waits' : 'studies wait'} for a worker of ${other}; this is ${program}, which would make other numbers`,
    );
  const threads = threadsOf(values.threads);
  const worker = new StudyWorker({
    databaseUrl: url,
    program,
    threads,
    say,
    ...(values.host === undefined ? {} : { host: values.host }),
  });
  let isEnding = false;
  const end = () => {
    if (isEnding) process.exit(1);
    isEnding = true;
    worker.end().then(
      () => process.exit(0),
      (error: unknown) => fail(messageOf(error)),
    );
  };
  process.on('SIGTERM', end);
  process.on('SIGINT', end);
  worker.start();
  process.stdout.write(`works on studies in ${threads} ${threads === 1 ? 'thread' : 'threads'}, as ${program}\n`);
  // Its timers keep nothing awake; this does.
  setInterval(() => undefined, 60_000);
}

main(process.argv.slice(2)).catch((error: unknown) => fail(messageOf(error)));
