import { Button } from '@/ui';
import { createSmallStore } from './smallStore';

/** The theme that was chosen since the page was loaded. */
const chosen = createSmallStore<'dark' | 'light' | null>(null);
const themeNow = () => (document.documentElement.dataset.theme === 'dark' ? 'dark' : 'light');

/** Changes to the other theme; the choice is kept in this browser. */
export function switchTheme(): void {
  const other = themeNow() === 'dark' ? 'light' : 'dark';
  document.documentElement.dataset.theme = other;
  try {
    localStorage.setItem('ordle-theme', other);
  } catch {
    // Storage refused: the choice lasts as long as the page.
  }
  chosen.set(other);
}

export function ThemeButton() {
  const theme = chosen.useValue() ?? themeNow();
  return (
    <Button
      look="quiet"
      aria-label={`Change to the ${theme === 'dark' ? 'light' : 'dark'} theme`}
      onClick={switchTheme}
    >
      {theme === 'dark' ? 'Dark' : 'Light'}
    </Button>
  );
}
