import fc from "fast-check";

/** Properties draw the same documents each time `npm test` runs; `npm run trial` gives them another seed each round. */
fc.configureGlobal({ seed: Number(process.env["NOMADE_SEED"] ?? 20_261_127) });
