import { useEffect, useState } from 'react';
import { readColours, type Colours } from './colours';
import { watchColours } from './watchColours';

/** The colours of the theme for a picture that is painted by a component. */
export function useColours(): Colours {
  const [colours, setColours] = useState(readColours);
  useEffect(() => watchColours(setColours), []);
  return colours;
}
