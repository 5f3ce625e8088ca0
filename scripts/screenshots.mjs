/** Takes one picture of each main view, from the demo, into docs/screenshots. Needs a build and Debian's Chromium. */
import { spawn, spawnSync } from 'node:child_process';
import path from 'node:path';
import { chromium } from '@playwright/test';
import { ROOT } from './bundle.mjs';
import { wholeChromium } from './chromium.mjs';

const PORT = 4337;
const FOLDER = path.join(ROOT, 'docs/screenshots');

const built = spawnSync(process.execPath, ['scripts/build.mjs'], { cwd: ROOT, stdio: 'inherit' });
if (built.status !== 0) process.exit(1);
const server = spawn(process.execPath, ['server/dist/server.js', '--demo', '--port', String(PORT)], {
  cwd: ROOT,
  stdio: 'ignore',
});
const browser = await chromium.launch({
  executablePath: wholeChromium(),
  args: [
    '--no-sandbox',
    '--disable-gpu',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
    '--autoplay-policy=no-user-gesture-required',
  ],
});

try {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const take = (name) => page.screenshot({ path: path.join(FOLDER, `${name}.png`) });
  const settle = async () => {
    await page.locator('[data-testid=roll][data-busy=false]').waitFor();
    await page.waitForTimeout(400);
  };
  for (let attempt = 0; attempt < 50; attempt++) {
    if (
      await fetch(`http://127.0.0.1:${PORT}/health`).then(
        (answer) => answer.ok,
        () => false,
      )
    )
      break;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  await page.goto(`http://127.0.0.1:${PORT}/`);
  await page.getByRole('link', { name: 'Ferry crossing' }).waitFor();
  // The small picture of each session comes after its line.
  await page.locator('li svg[role=img]').nth(1).waitFor();
  await take('shelf');

  // Many files: the demo's own, cleaned by what is suggested for each.
  await page.getByRole('button', { name: 'Clean many' }).click();
  const [chooser] = await Promise.all([
    page.waitForEvent('filechooser'),
    page.getByRole('button', { name: 'Add a folder' }).click(),
  ]);
  await chooser.setFiles(path.join(ROOT, 'app/public/demo'));
  await page.getByRole('button', { name: /^Clean \d+ files/ }).click();
  await page.getByRole('button', { name: 'Save all as one zip' }).waitFor();
  await page.locator('[role=row] svg[role=img]').nth(12).waitFor();
  await page.waitForTimeout(1500);
  await take('many');
  await page.getByRole('button', { name: 'Put all away' }).click();
  await page.getByRole('link', { name: 'Shelf', exact: true }).click();

  // What came in, with what would be done to it.
  await page.getByRole('link', { name: 'Ferry crossing' }).click();
  await settle();
  await page.getByRole('button', { name: 'Suggested clean-up' }).click();
  await page.getByTestId('clean-up-part').first().waitFor();
  await page.waitForTimeout(800);
  await take('clean-up');
  await page.getByRole('link', { name: 'Bench', exact: true }).click();
  await settle();
  await page.getByRole('button', { name: 'Add quantize' }).click();
  await page.getByLabel('Swing, typed').fill('58');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Add a step' }).click();
  await page.getByRole('menuitem', { name: 'Quantize', exact: true }).click();
  await page.getByRole('radio', { name: 'bars' }).click();
  await page.getByLabel('First bar').fill('2');
  await page.keyboard.press('Enter');
  await page.getByLabel('Last bar').fill('3');
  await page.keyboard.press('Enter');
  await page.locator('[data-stop]').nth(1).click();
  await settle();
  await take('bench');

  // Record: the practice player plays two passes of the marimba over two bars.
  await page.getByRole('link', { name: 'Record', exact: true }).click();
  await page.getByRole('radio', { name: 'Loop', exact: true }).click();
  await page.getByLabel('Last bar', { exact: true }).fill('2');
  await page.keyboard.press('Enter');
  await page.getByRole('tab', { name: 'Practice player' }).click();
  await page.getByLabel('What the practice player plays').selectOption({ label: 'Marimba, as cleaned' });
  await page.getByText('Plays along when the music runs').click();
  await page.getByRole('tab', { name: 'Keys' }).click();
  await page.waitForTimeout(600);
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  await page.getByText('Pass 2,').waitFor();
  await page.getByTestId('position').getByText(/^2\.2/).waitFor();
  await take('record');
  await page.getByRole('button', { name: 'Stop recording' }).click();
  await page.getByRole('button', { name: 'Take it back' }).click();
  await page.getByRole('radio', { name: 'From here' }).click();

  // Takes: the tightest accepted, the first seam looked at. Parts: a stretch again as a linked copy, the organ in
  // voices.
  await page.getByRole('link', { name: 'Takes', exact: true }).click();
  await page.getByRole('button', { name: 'Suggest takes' }).click();
  await page.waitForTimeout(600);
  await take('takes');
  await page.getByRole('button', { name: 'Dismiss' }).click();
  await page.getByRole('link', { name: 'Parts', exact: true }).click();
  await page.locator('[data-testid=parts][data-read=true]').waitFor();
  await page.getByRole('button', { name: 'Reed organ', exact: true }).click();
  await page.getByRole('button', { name: 'Separate' }).click();
  await page.getByRole('button', { name: 'Make 3 parts' }).click();
  await page.waitForTimeout(600);
  await page.getByTestId('parts').click({ position: { x: 300, y: 60 } });
  await page.keyboard.press('Control+d');
  await page.waitForTimeout(800);
  await take('parts');
  for (let action = 0; action < 2; action++) await page.keyboard.press('Control+z');

  // Tempo: the piano sketch that was played freely, its beats found.
  await page.getByRole('link', { name: 'Tempo', exact: true }).click();
  await page.getByLabel('Part', { exact: true }).selectOption({ label: 'Fog signal' });
  await page.locator('[data-testid=tempo][data-read=true]').waitFor();
  await page.getByRole('radio', { name: 'smoothly' }).click();
  await page.waitForTimeout(800);
  await take('tempo');
  await page.keyboard.press('Control+z');
  await page.getByLabel('Part', { exact: true }).selectOption({ label: 'Marimba' });
  // The map of the session: slower at the end.
  await page.getByRole('radio', { name: 'tempo and meter' }).click();
  await page.locator('[data-testid=tempo-map][data-read=true]').waitFor();
  for (const [label, value] of [
    ['First bar of the stretch', '17'],
    ['Last bar of the stretch', '20'],
    ['Tempo the ramp begins with', '104'],
    ['Tempo the ramp ends with', '92'],
  ]) {
    await page.getByLabel(label, { exact: true }).fill(value);
    await page.keyboard.press('Enter');
  }
  await page.getByRole('button', { name: 'Make a ramp' }).click();
  await page.waitForTimeout(800);
  await take('tempo-map');
  await page.keyboard.press('Control+z');

  // Readings: the marimba as played and as it was quantized.
  await page.getByRole('link', { name: 'Readings', exact: true }).click();
  await page.locator('[data-testid=readings][data-read=true]').waitFor();
  await page.waitForTimeout(1500);
  await take('readings');
  await page.getByRole('button', { name: 'By place in the bar', exact: true }).click();
  await page.waitForTimeout(800);
  await take('readings-chart');
  await page.getByRole('link', { name: 'Bench', exact: true }).click();
  await settle();

  await page.getByRole('button', { name: /^Brush kit/ }).click();
  await settle();
  await page.getByRole('button', { name: 'Add quantize' }).click();
  await settle();
  await page.getByRole('button', { name: 'Change to the dark theme' }).click();
  await settle();
  await take('bench-drums-dark');
  await page.getByRole('button', { name: 'Change to the light theme' }).click();

  // Changes by hand: a few notes moved, all parts shown, the note list open.
  await page.getByRole('button', { name: /^Marimba/ }).click();
  await page.locator('[data-stop=cleaned]').click();
  await settle();
  for (const key of ['.', 'Shift+.', 'Shift+.', 'ArrowUp', 'ArrowUp', 'ArrowRight'])
    await page.keyboard.press(key);
  await page.getByRole('button', { name: 'show all' }).click();
  await page.keyboard.press('k');
  await settle();
  await take('by-hand');
  await page.keyboard.press('k');

  await page.getByRole('button', { name: 'show one' }).click();
  await page.getByText('All parts are shown behind').waitFor({ state: 'hidden' });

  // A groove on some bars, its span pointed at; and three parts set together, transposed bar by bar.
  const add = async (name) => {
    await page.getByRole('button', { name: 'Add a step' }).click();
    await page.getByRole('menuitem', { name, exact: true }).click();
    await settle();
  };
  await page.getByRole('button', { name: /^Upright bass/ }).click();
  await settle();
  await add('Quantize');
  await add('Groove');
  await page.getByRole('radio', { name: 'bars' }).click();
  for (const [field, bar] of [
    ['First bar', '2'],
    ['Last bar', '3'],
  ]) {
    await page.getByLabel(field).fill(bar);
    await page.keyboard.press('Enter');
  }
  await settle();
  await page.locator('[data-stop]').nth(2).hover();
  await settle();
  await take('where');
  await page.getByRole('button', { name: /^Reed organ/ }).click();
  await page.getByRole('button', { name: /^Upright bass/ }).click({ modifiers: ['Control'] });
  await page.getByRole('button', { name: /^Tin whistle/ }).click({ modifiers: ['Control'] });
  await settle();
  await add('Transpose');
  await page.getByRole('button', { name: 'add bars' }).click();
  await page.getByLabel('Semitones of the section').fill('5');
  await page.keyboard.press('Enter');
  await settle();
  await take('together');

  // Lanes: a curve thinned, and the pedal as presses.
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await page.getByRole('button', { name: /^Reed organ/ }).click();
  await settle();
  for (const name of ['expression', 'sustain']) {
    await page.keyboard.press('Shift+V');
    await page.getByPlaceholder('Number or name').fill(name);
    await page.keyboard.press('Enter');
    await settle();
  }
  await page.keyboard.press('v');
  await add('Curve');
  await page.getByLabel('Action', { exact: true }).selectOption('thin');
  await page.getByLabel('At most off by, typed').fill('5');
  await page.keyboard.press('Enter');
  await settle();
  await take('lanes');

  // Dynamic marks put in the lane with the drawing tool, a hairpin between the first two.
  await page.getByLabel('Action', { exact: true }).selectOption('marks');
  await settle();
  const lane = await page.getByTestId('lane-cc11').boundingBox();
  const place = (share, value) => [
    lane.x + 46 + share * (lane.width - 46),
    lane.y + 8 + (1 - value / 127) * (lane.height - 16),
  ];
  await page.keyboard.press('d');
  for (const [share, value] of [[0.1, 49], [0.45, 96], [0.8, 64]]) await page.mouse.click(...place(share, value)); // prettier-ignore
  await page.keyboard.press('s');
  await page.mouse.dblclick(...place(0.3, 20));
  await settle();
  await take('marks');

  await page.getByRole('link', { name: 'Export' }).click();
  await page.getByRole('heading', { name: 'Export', exact: true }).waitFor();
  await take('export');

  // A written score with the playing on it.
  await page.getByRole('link', { name: 'Score' }).click();
  await page.locator('[data-drawn=true]').first().waitFor();
  await page.getByTitle('Which parts are written down').click();
  const parts = page.getByRole('dialog', { name: 'Parts in the score' });
  const others = await parts.getByRole('checkbox', { checked: true }).all();
  const names = await Promise.all(
    others.map((box) => box.evaluate((each) => each.nextElementSibling?.textContent)),
  );
  if (!names.includes('Marimba')) await parts.getByRole('checkbox', { name: 'Marimba' }).click();
  for (const name of names)
    if (name && name !== 'Marimba') await parts.getByRole('checkbox', { name }).click();
  await page.keyboard.press('Escape');
  const picker = page.getByLabel('A written score, MusicXML or MIDI');
  await picker.setInputFiles('app/public/demo/ferry-marimba.musicxml');
  await page.getByTestId('score-told').waitFor();
  await page.locator('.score section[data-drawn=true] g.note.right').first().waitFor();
  await page.waitForTimeout(1500);
  await take('score');
  await page.keyboard.press('Control+z');
} finally {
  await browser.close();
  server.kill();
}
