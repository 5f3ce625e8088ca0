import { expect, test } from './support/test';
import { addStep, openDemo, typeValue } from './support/app';

/** What a screen reader goes by, place by place: what is there, by role and name, in this order among other things. */
const PLACES: Record<string, { name: string; tree: string }> = {
  '/takes': {
    name: 'Takes',
    tree: `
    - main:
      - toolbar "Takes":
        - combobox "Part"
        - radiogroup "What a click does"
        - button "Suggest takes"
      - heading "Assembled" [level=2]
      - list "Takes":
        - listitem:
          - button "Take 1"
          - button "More for Take 1"
          - spinbutton "Slide of Take 1"
          - button "Play this take"
        - listitem
        - listitem
      - region "Takes and bars":
        - application /^Marimba. 3 takes, 24 bars\\. Take 1, bar 1, chosen\\. Arrows go from cell to cell/
      - complementary "Settings"`,
  },
  '/tempo': {
    name: 'Tempo',
    tree: `
    - main:
      - toolbar "Tempo":
        - radiogroup "What is looked at"
        - combobox "Part"
        - checkbox "hear the beats"
      - region "Performance in real time":
        - application /325 notes, \\d+ beats\\. .*arrows go from beat to beat/
      - complementary "Settings":
        - region "Tempo found":
          - heading "Tempo found" [level=2]
          - spinbutton "Beats a bar"
          - radiogroup "Beats are divided"
        - region "Use these beats":
          - radiogroup "The tempo follows"`,
  },
  '/parts': {
    name: 'Parts',
    tree: `
    - main:
      - toolbar "Parts":
        - radiogroup "Blocks are moved by"
        - button "New part"
      - list "Parts":
        - listitem:
          - button "Marimba"
          - button "More for Marimba"
        - listitem
      - region "Parts along the bars":
        - application /^6 parts, 6 blocks, 0 selected\\. Drag blocks to move them/
      - complementary "Settings":
        - region "Block"
        - region "Sections":
          - list "Sections"`,
  },
  '/readings': {
    name: 'Readings',
    tree: `
    - main:
      - radiogroup "Where"
      - button "Suggested clean-up"
      - table:
        - rowgroup:
          - row:
            - columnheader "part"
            - columnheader "notes"
            - columnheader "uneven, ms"
        - rowgroup:
          - row /^Marimba/:
            - rowheader /^Marimba/
            - cell "325"
            - cell
            - cell
            - cell
            - cell "Off the grid of Marimba"
      - navigation "More of Marimba":
        - heading "Marimba" [level=2]
        - button "Grids" [pressed]
      - region "Grids"`,
  },
  '/record': {
    name: 'Record',
    tree: `
    - main:
      - region "Recording":
        - button "Record"
        - paragraph:
          - status: Ready
        - combobox "Part to record into"
      - img "The music as it comes, and what is played"
      - complementary "Settings":
        - group "Playing makes":
          - radio "New take" [checked]
        - group "Where":
          - radiogroup "Where is recorded"
        - group "Click":
          - spinbutton "Bars counted in"
          - combobox "When the click is heard"
          - spinbutton "Level of the click"`,
  },
  '/export': {
    name: 'Export',
    tree: `
    - main:
      - region "Parts to export":
        - list:
          - listitem:
            - checkbox "Marimba" [checked]
          - listitem
        - region "Check before export"
        - region "What will be written":
          - heading "What will be written" [level=3]
          - list "Files"
      - region "How it is written":
        - radiogroup "Version"
        - radiogroup "Which bars"
        - textbox "Names of files"
        - region "Formats":
          - list:
            - listitem:
              - checkbox "Standard MIDI File" [checked]
              - radiogroup "Format"
      - button "Hear it"
      - button "Export"`,
  },
  '/clean-up': {
    name: 'Suggested clean-up',
    tree: `
    - main:
      - article "Suggested clean-up":
        - region "Parts":
          - list:
            - listitem:
              - checkbox "Marimba" [checked]
              - img /^Off the grid by .* ms before, .* ms after$/
              - button "Settings for Marimba"
        - button "Clean all of it"
        - button "Hear it cleaned"`,
  },
};

test('every place has one heading of its own, its bars, its lists and a picture that is described and worked in', async ({
  page,
}) => {
  await openDemo(page);
  const session = page.url();
  await expect(page.locator('body')).toMatchAriaSnapshot(`
    - banner:
      - link "Skip to the music"
      - heading /^Bench. Ferry crossing$/ [level=1]
      - textbox "Name of the session"
      - navigation "Places":
        - link "Shelf"
        - link "Record"
        - link "Takes"
        - link "Tempo"
        - link "Bench"
        - link "Parts"
        - link "Readings"
        - link "Export"
      - toolbar "Session":
        - button "Undo" [disabled]
    - main:
      - region "Line of steps":
        - toolbar /^Steps. arrow keys walk/:
          - button /^As played/
          - button "Add a step"
          - button /^Cleaned/ [pressed]
      - complementary "Parts":
        - list:
          - listitem:
            - button "Mute Marimba"
            - button "Solo Marimba"
      - group "Editor tools":
        - radiogroup "Tool":
          - radio "select" [checked]
        - combobox "Snap"
      - region "Editor":
        - application /^Marimba. 325 notes\\. Full stop and comma walk the notes/
  `);
  for (const [path, { name, tree }] of Object.entries(PLACES)) {
    await page.goto(session + path);
    await expect(page).toHaveTitle(`${name} · Ferry crossing · Ordle`);
    await expect(page.getByRole('heading', { level: 1 })).toHaveText(`${name}: Ferry crossing`);
    await expect(page.locator('body'), name).toMatchAriaSnapshot(tree);
  }
  await page.goto('/');
  await expect(page).toHaveTitle('Shelf · Ordle');
  await expect(page.locator('body')).toMatchAriaSnapshot(`
    - main:
      - heading "Shelf" [level=1]
      - button "Open the demo"
      - button "Import files"
      - region "Sessions on the shelf":
        - searchbox "Search the sessions"
        - list "Sessions":
          - listitem:
            - checkbox "Select Ferry crossing"
            - link "Ferry crossing"
            - img /^late up to .*, early up to/
            - button "More for Ferry crossing"
  `);
});

test('a step, its figure and what it did are named and said', async ({ page }) => {
  await openDemo(page);
  await addStep(page, 'Quantize');
  await expect(page.getByRole('region', { name: 'Off the grid' })).toMatchAriaSnapshot(`
    - region "Off the grid": /\\d.* ms off the grid was \\d+ as played/
  `);
  await typeValue(page, 'Strength, typed', '60');
  await expect(page.getByRole('status', { name: 'Last action' })).toContainText('Strength 60');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('status', { name: 'Last action' })).toContainText('Undone');
});
