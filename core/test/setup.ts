import fc from 'fast-check';

fc.configureGlobal({ seed: 20_260_321 });
