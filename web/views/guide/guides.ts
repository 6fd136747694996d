import bank from '../../../docs/guide/first-bank.md?raw';
import coilgun from '../../../docs/guide/first-coilgun.md?raw';
import marx from '../../../docs/guide/first-marx.md?raw';
import erection from '../../../docs/screenshots/erection.png?url';
import launch from '../../../docs/screenshots/launch.png?url';
import rig from '../../../docs/screenshots/rig.png?url';

export interface Guide {
  readonly id: string;
  readonly title: string;
  /** The starter it begins with. */
  readonly starter: string;
  /** Markdown, the same as in the documents. */
  readonly text: string;
}

const titled = (id: string, starter: string, text: string): Guide => ({
  id,
  starter,
  text,
  title: /^# (.*)$/m.exec(text)?.[1] ?? id,
});

/** Walk-throughs, each from a starter to the shot book. */
export const guides: readonly Guide[] = [
  titled('first-bank', 'bank', bank),
  titled('first-marx', 'marx', marx),
  titled('first-coilgun', 'coilgun', coilgun),
];

/** Where a picture of the documents is served from. */
export const pictureOf: Readonly<Record<string, string>> = {
  '../screenshots/rig.png': rig,
  '../screenshots/erection.png': erection,
  '../screenshots/launch.png': launch,
};
