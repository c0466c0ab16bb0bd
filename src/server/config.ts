import { z } from 'zod';

const schema = z.object({
  DATABASE_URL: z.url({ protocol: /^postgres(ql)?$/ }),
  LOG_LEVEL: z.enum(['debug', 'info', 'warn', 'error', 'silent']).default('info'),
  /**
   * Where people reach this site: scheme, name and port. Left out on one's own machine, where any loopback name will
   * do.
   */
  ORIGIN: z
    .url({ protocol: /^https?$/ })
    .transform((url) => new URL(url).origin)
    .optional(),
  PORT: z.coerce.number().int().min(1).max(65_535).default(4400),
});

/** The environment, read once. Throws a ZodError naming what is missing. */
export const config = schema.parse(process.env);
