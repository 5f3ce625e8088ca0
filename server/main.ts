import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { createApp } from './createApp';

const { values } = parseArgs({
  options: {
    port: { type: 'string' },
    host: { type: 'string', default: '127.0.0.1' },
    demo: { type: 'boolean', default: false },
  },
});
const port = Number(values.port ?? process.env.PORT ?? 4173);
const folder = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '../../app/dist');

function giveUp(sentence: string): never {
  process.stderr.write(`${sentence}\n`);
  process.exit(1);
}

if (!Number.isInteger(port) || port < 0 || port > 65535)
  giveUp(`"${values.port ?? process.env.PORT}" is not a port number (0 to 65535).`);

try {
  const server = createApp({ folder, demo: values.demo }).listen(port, values.host);
  server.on('listening', () => {
    const address = server.address();
    const actual = typeof address === 'object' && address ? address.port : port;
    process.stdout.write(`Ordle is at http://${values.host}:${actual}/\n`);
  });
  server.on('error', (error: NodeJS.ErrnoException) => {
    if (error.code === 'EADDRINUSE')
      giveUp(`Port ${port} is in use by another program. Choose another: PORT=${port + 1} npm run demo`);
    if (error.code === 'EACCES')
      giveUp(`Port ${port} may not be used by this person. Choose one above 1023.`);
    giveUp(`The server could not start: ${error.message}`);
  });
} catch (error) {
  giveUp(error instanceof Error ? error.message : String(error));
}
