// Random tests are seeded, so that a run can be repeated; VAST_SEED=… looks elsewhere.
import fc from 'fast-check';

fc.configureGlobal({ seed: Number(process.env.VAST_SEED ?? 20_261_124) });
