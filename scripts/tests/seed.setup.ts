import fc from 'fast-check';

fc.configureGlobal({ seed: 1 });
