import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { createApp } from './createApp';

const folder = mkdtempSync(path.join(tmpdir(), 'ordle-server-'));
mkdirSync(path.join(folder, 'assets'));
writeFileSync(path.join(folder, 'index.html'), '<html><head></head><body>app</body></html>');
writeFileSync(path.join(folder, 'assets', 'a-1234.js'), `// ${'x'.repeat(5000)}`);

const servers: Server[] = [];
afterAll(() => {
  servers.forEach((server) => server.close());
  rmSync(folder, { recursive: true });
});

async function serve(demo = false): Promise<string> {
  const server = createApp({ folder, demo }).listen(0, '127.0.0.1');
  servers.push(server);
  await new Promise((resolve) => server.once('listening', resolve));
  return `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
}

describe('server', () => {
  it('answers every place with the page, isolated and under a content security policy', async () => {
    const answer = await fetch(`${await serve()}/s/some-session/export`);
    expect([answer.status, await answer.text()]).toEqual([200, expect.stringContaining('app')]);
    expect(answer.headers.get('cross-origin-opener-policy')).toBe('same-origin');
    expect(answer.headers.get('cross-origin-embedder-policy')).toBe('require-corp');
    expect(answer.headers.get('content-security-policy')).toContain("script-src 'self' 'wasm-unsafe-eval'");
    expect(answer.headers.get('cache-control')).toBe('no-cache');
    expect(answer.headers.get('x-powered-by')).toBeNull();
  });

  it('caches hashed files for long, compresses, and says of missing files that they are missing', async () => {
    const base = await serve();
    const script = await fetch(`${base}/assets/a-1234.js`, { headers: { 'accept-encoding': 'gzip' } });
    expect(script.headers.get('cache-control')).toContain('immutable');
    expect(script.headers.get('content-encoding')).toBe('gzip');
    expect((await fetch(`${base}/assets/gone.js`)).status).toBe(404);
    expect(await (await fetch(`${base}/health`)).json()).toEqual({ ok: true });
  });

  it('marks the page for the demo only when asked', async () => {
    expect(await (await fetch(await serve(true))).text()).toContain('ordle-demo');
    expect(await (await fetch(await serve())).text()).not.toContain('ordle-demo');
  });

  it.each(['/%', '/s/%E0%A4%A', '/assets/%ff.js', '/%2e%2e/%2e%2e/etc/passwd%', '/a%00b'])(
    'answers the address %s without a stack trace or a path of the machine',
    async (address) => {
      const answer = await fetch(`${await serve()}${address}`);
      const text = await answer.text();
      expect(answer.status).toBeLessThan(500);
      expect(text).not.toMatch(/\bat |node_modules|\/tmp\/|Error/);
      expect(answer.headers.get('content-security-policy')).toContain("default-src 'self'");
    },
  );

  it('refuses to start without a build, in a plain sentence', () => {
    expect(() => createApp({ folder: path.join(folder, 'nowhere'), demo: false })).toThrow(
      'Run "npm run build" first.',
    );
  });
});
