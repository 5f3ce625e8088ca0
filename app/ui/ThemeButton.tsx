import { useSyncExternalStore } from 'react';
import { Button } from '@/ui';

const listeners = new Set<() => void>();
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
  listeners.forEach((listener) => listener());
}

function subscribe(listener: () => void) {
  listeners.add(listener);
  return () => void listeners.delete(listener);
}

export function ThemeButton() {
  const theme = useSyncExternalStore(subscribe, themeNow);
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
