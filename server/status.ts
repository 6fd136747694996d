// What ./surge status says beside the processes: how the running server stands, as its health tells.
import { healthSchema } from '@vast-surge/contract';

const size = (bytes: number) => (bytes < 1e9 ? `${(bytes / 1e6).toFixed(0)} MB` : `${(bytes / 1e9).toPrecision(3)} GB`);

try {
  const answer = await fetch(`http://127.0.0.1:${process.env['PORT'] ?? '4600'}/api/health`, {
    signal: AbortSignal.timeout(5000),
  });
  const { database, schema, disk, lastBackupAt, backsUp } = healthSchema.parse(await answer.json());
  const lines = [
    `answers: ${database === 'up' ? 'yes' : database === 'away' ? 'the database does not answer' : 'the database takes no writes'}`,
    ...(schema === null ? [] : [`tables: ${schema}`]),
    ...(disk === null
      ? []
      : [
          `disk: ${size(disk.free)} free of ${size(disk.total)}${disk.full ? ': THE DISK IS FULL, make room' : ''}${disk.writable ? '' : ': THE DATA FOLDER CANNOT BE WRITTEN'}`,
        ]),
    `last backup read back: ${lastBackupAt === null ? 'none' : `${lastBackupAt.slice(0, 16).replace('T', ' ')} UTC`}; scheduled backups: ${backsUp ? 'on' : 'off'}`,
  ];
  process.stdout.write(`${lines.join('\n')}\n`);
} catch {
  process.stdout.write('answers: no\n');
}
