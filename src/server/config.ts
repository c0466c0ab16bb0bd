import { z } from 'zod';

const schema = z.object({
  DATABASE_URL: z.url({ protocol: /^postgres(ql)?$/ }),
  LOG_LEVEL: z.enum(['debug', 'info', 'warn', 'error', 'silent']).default('info'),
});

/** The environment, read once. Throws a ZodError naming what is missing. */
export const config = schema.parse(process.env);
