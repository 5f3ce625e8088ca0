import { readColours, type Colours } from './colours';

/** Tells the colours of the theme whenever another is picked, or letters become larger. Returns the way to stop. */
export function watchColours(onChange: (colours: Colours) => void): () => void {
  const themes = new MutationObserver(() => onChange(readColours()));
  themes.observe(document.documentElement, { attributes: true, attributeFilter: ['data-theme'] });
  let { letters } = readColours();
  const onResize = () => {
    const colours = readColours();
    if (colours.letters === letters) return;
    letters = colours.letters;
    onChange(colours);
  };
  window.addEventListener('resize', onResize);
  return () => {
    themes.disconnect();
    window.removeEventListener('resize', onResize);
  };
}
