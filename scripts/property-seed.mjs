import fc from 'fast-check';

// What decides whether a change lands must say the same twice. Look for new examples with another seed: PROPERTY_SEED=7 npx vitest run.
fc.configureGlobal({ seed: Number(process.env.PROPERTY_SEED ?? 20261125) });
