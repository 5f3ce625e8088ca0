import { readColours, type Colours } from './colours';

/** Tells the colours of the theme whenever another is picked. Returns the way to stop. */
export function watchColours(onChange: (colours: Colours) => void): () => void {
  const themes = new MutationObserver(() => onChange(readColours()));
  themes.observe(document.documentElement, { attributes: true, attributeFilter: ['data-theme'] });
  return () => themes.disconnect();
}
