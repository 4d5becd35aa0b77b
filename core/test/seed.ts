import fc from 'fast-check'

// Property tests draw the same cases on every run, so that CI is repeatable; CLIMBER_SEED draws others.
fc.configureGlobal({ seed: Number(process.env.CLIMBER_SEED ?? 20310303) })
