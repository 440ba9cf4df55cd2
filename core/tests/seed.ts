import fc from 'fast-check';

/** Property tests draw the same cases in every run; another seed is tried with SEED=… in the environment. */
fc.configureGlobal({ seed: Number(process.env.SEED ?? 20_261_125) });
