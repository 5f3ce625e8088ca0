/**
 * Debian packages the tests need: a browser and, as independent readers and sources of files, midicsv, sox,
 * xmllint and two packages of music.
 */
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, rmSync } from 'node:fs';
import path from 'node:path';
import { ROOT } from './bundle.mjs';
import { WITHOUT_WINDOWS } from './chromium.mjs';

const NEEDED = [
  {
    file: process.env.CHROMIUM ?? WITHOUT_WINDOWS,
    packages: ['chromium-headless-shell', 'fonts-liberation'],
    why: 'the end-to-end tests',
  },
  {
    file: process.env.FIREFOX ?? '/usr/bin/firefox-esr',
    packages: ['firefox-esr'],
    why: 'the main job in another browser engine',
  },
  { file: '/usr/bin/midicsv', packages: ['midicsv'], why: 'the checks against an independent reader' },
  { file: '/usr/bin/parallel', packages: ['parallel'], why: 'the test of many files in several slots' },
  { file: '/usr/bin/sox', packages: ['sox'], why: 'the check of sound by an independent reader' },
  { file: '/usr/bin/xmllint', packages: ['libxml2-utils'], why: 'the check of MusicXML by its schema' },
];
/** Packages with MIDI files made by others; unpacked, never installed, never committed. */
const MUSIC = ['openttd-openmsx', 'freedink-data'];

const hasApt = existsSync('/usr/bin/apt-get');
const isRoot = process.getuid?.() === 0;
let updated = false;

function apt(args, options = {}) {
  const command = isRoot ? 'apt-get' : 'sudo';
  const full = isRoot ? args : ['-n', 'apt-get', ...args];
  return (
    spawnSync(command, full, {
      stdio: ['ignore', 'ignore', 'inherit'],
      timeout: 300000,
      env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
      ...options,
    }).status === 0
  );
}

function updateOnce() {
  if (!updated) apt(['update', '-qq']);
  updated = true;
}

/** Installs what is missing where that is possible, and says loudly which checks cannot run otherwise. */
export function installSystemTools() {
  for (const { file, packages, why } of NEEDED) {
    if (existsSync(file)) continue;
    console.log(`Installing ${packages.join(', ')} for ${why} ...`);
    if (hasApt) {
      updateOnce();
      apt(['install', '-y', '-qq', '--no-install-recommends', ...packages]);
    }
    if (!existsSync(file))
      console.warn(`\n!!! ${file} is not there and could not be installed: ${why} will NOT run.\n`);
  }
}

/** Unpacks the music packages into .cache/oracles once. */
export function fetchMusicOfOthers() {
  const folder = path.join(ROOT, '.cache/oracles');
  for (const name of MUSIC) {
    const target = path.join(folder, name);
    if (existsSync(target) && readdirSync(target).length > 0) continue;
    if (!hasApt) {
      console.warn(`\n!!! apt is not here: the files of ${name} will NOT be checked.\n`);
      continue;
    }
    mkdirSync(target, { recursive: true });
    updateOnce();
    const got =
      spawnSync('apt-get', ['download', '-qq', '-o', 'APT::Sandbox::User=root', name], {
        cwd: target,
        stdio: ['ignore', 'ignore', 'inherit'],
        timeout: 120000,
      }).status === 0;
    const archive = readdirSync(target).find((file) => file.endsWith('.deb'));
    if (got && archive) {
      spawnSync('dpkg-deb', ['-x', archive, '.'], { cwd: target });
      rmSync(path.join(target, archive));
    }
    if (!got) {
      rmSync(target, { recursive: true, force: true });
      console.warn(`\n!!! ${name} could not be fetched: its files will NOT be checked.\n`);
    }
  }
}
