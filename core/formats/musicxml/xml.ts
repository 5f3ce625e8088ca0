import { escaped } from '../../report';

/** What XML 1.0 has no letter for: controls but tab and line ends, halves of pairs, two that are no letters. */
const NO_LETTER = /[^\t\n\r\u0020-\ud7ff\ue000-\ufffd\u{10000}-\u{10ffff}]/gu;

/** Text as XML holds it: what would end a text or an attribute is escaped, what XML has no letter for is left out. */
export const escapedXml = (text: string): string => escaped(text.replace(NO_LETTER, ''));

/** Attributes by name; those that are undefined are left out. */
type Attributes = Record<string, string | number | undefined>;

/** An element with markup in it; an empty one where that is nothing. */
export function element(name: string, content = '', attributes: Attributes = {}): string {
  const said = Object.entries(attributes)
    .flatMap(([key, value]) => (value === undefined ? [] : [` ${key}="${escapedXml(String(value))}"`]))
    .join('');
  return content === '' ? `<${name}${said}/>` : `<${name}${said}>${content}</${name}>`;
}

/** An element of a text. */
export const textElement = (name: string, text: string, attributes: Attributes = {}): string =>
  element(name, escapedXml(text), attributes);
