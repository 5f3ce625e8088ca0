import { useState } from 'react';
import { Button } from '@/ui';

/** Switches between the light and the dark theme; the choice is kept in this browser. */
export function ThemeButton() {
  const [theme, setTheme] = useState(document.documentElement.dataset.theme === 'dark' ? 'dark' : 'light');
  const other = theme === 'dark' ? 'light' : 'dark';
  return (
    <Button
      look="quiet"
      aria-label={`Change to the ${other} theme`}
      onClick={() => {
        document.documentElement.dataset.theme = other;
        try {
          localStorage.setItem('ordle-theme', other);
        } catch {
          // Storage refused: the choice lasts as long as the page.
        }
        setTheme(other);
      }}
    >
      {theme === 'dark' ? 'Dark' : 'Light'}
    </Button>
  );
}
