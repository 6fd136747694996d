import { formatDistanceToNowStrict } from 'date-fns';
import { Link } from 'react-router';
import { useGetHealthQuery } from '../../app/base-api.ts';

/** How old the last backup is that was read back, and the way to what can be done about it. */
export function BackupAge() {
  const { data } = useGetHealthQuery(undefined, { refetchOnMountOrArgChange: 30 });
  if (!data || data.database !== 'up') return null;
  return (
    <Link className="text-14 text-dim underline hover:text-ink" to="/backups">
      {data.lastBackupAt === null ? 'No backup yet' : `Last backup ${formatDistanceToNowStrict(new Date(data.lastBackupAt))} ago`}
    </Link>
  );
}
