import { ruled } from '../formula/index.ts';

/** Pressure of the air outside, where nothing else is said. */
export const ambient = ruled('ambient pressure', 101_300, 'Pa', 'IEC 60060-1, standard atmosphere');
