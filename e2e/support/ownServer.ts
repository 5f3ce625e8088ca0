import { spawn, type ChildProcess } from 'node:child_process';
import {
  cpSync,
  mkdtempSync,
  readFileSync,
  readdirSync,
  renameSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { ROOT } from './app';

/** A server of a test's own, over a copy of the build, to be stopped and to be given a newer version. */
export interface OwnServer {
  url: string;
  stop(): Promise<void>;
  /** Starts again at the same address. */
  start(): Promise<void>;
  /** Puts a newer version in place of the one that is served: every script has another name, none its old one. */
  renew(): void;
  remove(): Promise<void>;
}

export async function ownServer(): Promise<OwnServer> {
  const folder = mkdtempSync(path.join(tmpdir(), 'ordle-own-'));
  const dist = path.join(folder, 'app/dist');
  cpSync(path.join(ROOT, 'app/dist'), dist, { recursive: true });
  cpSync(path.join(ROOT, 'server/dist'), path.join(folder, 'server/dist'), { recursive: true });
  symlinkSync(path.join(ROOT, 'node_modules'), path.join(folder, 'node_modules'));
  writeFileSync(path.join(folder, 'package.json'), '{"type":"module"}');
  let child: ChildProcess | null = null;
  let port = 0;

  async function start() {
    const started = spawn(
      process.execPath,
      [path.join(folder, 'server/dist/server.js'), '--port', String(port)],
      { stdio: ['ignore', 'pipe', 'inherit'] },
    );
    child = started;
    const said = await new Promise<string>((resolve, reject) => {
      started.stdout.on('data', (chunk: Buffer) => resolve(String(chunk)));
      started.on('exit', () => reject(new Error('The server did not start.')));
    });
    port = Number(/:(\d+)\//.exec(said)?.[1]);
  }
  async function stop() {
    if (!child) return;
    const stopped = child;
    child = null;
    const ended = new Promise((resolve) => stopped.on('exit', resolve));
    stopped.kill('SIGKILL');
    await ended;
  }

  await start();
  return {
    url: `http://127.0.0.1:${port}`,
    start,
    stop,
    renew() {
      const scripts = readdirSync(path.join(dist, 'assets')).filter((name) => /-[\w-]{8}\.js$/.test(name));
      const renamed = scripts.map((name): [string, string] => [
        name,
        name.replace(/-[\w-]{8}\.js$/, (end) => `-${[...end.slice(1, 9)].reverse().join('')}.js`),
      ]);
      for (const name of ['index.html', 'serviceWorker.js', ...scripts.map((each) => `assets/${each}`)]) {
        const file = path.join(dist, name);
        let text = readFileSync(file, 'utf8');
        for (const [from, to] of renamed) text = text.replaceAll(from, to);
        // What the page is known by in the list of what is kept changes with the page.
        text = text.replace(/"[0-9a-f]{32}","url":"\/index.html"/, '"newer","url":"/index.html"');
        writeFileSync(
          file,
          text.replace('<title>Ordle</title>', '<title>Ordle</title><meta name="newer" />'),
        );
      }
      for (const [from, to] of renamed)
        renameSync(path.join(dist, 'assets', from), path.join(dist, 'assets', to));
    },
    async remove() {
      await stop();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
