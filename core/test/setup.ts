import fc from 'fast-check';
import { afterAll } from 'vitest';
import { keepSeen } from './seen.ts';

fc.configureGlobal({ seed: 20_260_321 });
afterAll(keepSeen);
