import { config, z } from "zod";

// Without it zod probes `new Function`, which the content security policy forbids.
config({ jitless: true });

/** Forms take zod from here: it comes with the first of them, not with the first screen. */
export { z };
