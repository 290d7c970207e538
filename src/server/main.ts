import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { z } from 'zod';
import { createServer } from './createServer.ts';
import { listenOnFreePort } from './listenOnFreePort.ts';

const optionsSchema = z.object({
  port: z.coerce.number().int().min(0).max(65535).default(4173),
  /** Loopback only, unless told otherwise. */
  host: z.string().min(1).default('127.0.0.1'),
});

function readOptions(): z.infer<typeof optionsSchema> {
  try {
    const { values } = parseArgs({ options: { port: { type: 'string' }, host: { type: 'string' } } });
    return optionsSchema.parse(values);
  } catch {
    process.stderr.write('Use --port with a number from 0 to 65535 and, if need be, --host with an address.\n');
    process.exit(2);
  }
}

const { port, host } = readOptions();
const app = createServer(fileURLToPath(new URL('../../dist', import.meta.url)));
const { port: found } = await listenOnFreePort(app, port, host);
if (found !== port && port !== 0) process.stdout.write(`Port ${port} is taken; using ${found}.\n`);
process.stdout.write(`Fingo is ready: http://${host === '127.0.0.1' ? 'localhost' : host}:${found}/\n`);
