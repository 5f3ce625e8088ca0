import { XMLParser } from 'fast-xml-parser';
import { OrdleError } from '../../errors';

/** An element of a document. */
export interface XmlElement {
  name: string;
  attributes: Readonly<Record<string, string>>;
  children: readonly XmlElement[];
  /** The text directly in it. */
  text: string;
}

/** Larger documents, deeper ones and such with longer tags are no music. */
const MOST_LETTERS = 64e6;
const DEEPEST = 60;
const LONGEST_TAG = 20_000;

type Raw = Record<string, unknown>;

const unreadable = (why: string) =>
  new OrdleError('score-unreadable', `This is not a score that can be read: ${why}.`);

/**
 * A document as a tree. Entities of its own are refused and none is replaced but the five of XML and numbers, so that a
 * small file cannot become a large one. Throws `score-unreadable`.
 */
export function readXml(text: string): XmlElement {
  if (text.length > MOST_LETTERS) throw unreadable('it is larger than any score');
  if (/<!ENTITY/i.test(text)) throw unreadable('it brings entities of its own, which no score needs');
  checkTags(text);
  let roots: unknown;
  try {
    roots = new XMLParser({
      preserveOrder: true,
      ignoreAttributes: false,
      attributeNamePrefix: '',
      processEntities: false,
      parseTagValue: false,
      parseAttributeValue: false,
      ignoreDeclaration: true,
      ignorePiTags: true,
    }).parse(text);
  } catch (error) {
    throw unreadable(error instanceof Error ? error.message : 'it is no XML');
  }
  const elements = elementsOf(roots, 0);
  if (elements.length !== 1) throw unreadable('it has no one root');
  return elements[0];
}

/** Tags that never end, and nesting deeper than any score, before anything is built of them. */
function checkTags(text: string): void {
  let depth = 0;
  for (const [tag] of text.matchAll(/<[^>]*>?/g)) {
    if (tag.length > LONGEST_TAG) throw unreadable('a tag in it is longer than any of a score');
    if (/^<[?!]/.test(tag) || tag.endsWith('/>')) continue;
    depth += tag.startsWith('</') ? -1 : 1;
    if (depth > DEEPEST) throw unreadable('it is nested deeper than any score');
  }
}

function elementsOf(raw: unknown, depth: number): XmlElement[] {
  if (!Array.isArray(raw) || depth > DEEPEST) return [];
  return raw.flatMap((each: Raw): XmlElement[] => {
    const name = Object.keys(each).find((key) => key !== ':@' && key !== '#text');
    if (name === undefined) return [];
    const inner = each[name];
    const text = Array.isArray(inner)
      ? inner.map((child: Raw) => ('#text' in child ? String(child['#text']) : '')).join('')
      : '';
    const attributes = Object.fromEntries(
      Object.entries((each[':@'] ?? {}) as Raw).map(([key, value]) => [key, plain(String(value))]),
    );
    return [{ name, attributes, children: elementsOf(inner, depth + 1), text: plain(text).trim() }];
  });
}

const NAMED: Record<string, string> = { lt: '<', gt: '>', amp: '&', quot: '"', apos: "'" };

/** The five entities of XML and letters by number. */
const plain = (text: string): string =>
  text.replace(/&(?:#x([0-9a-f]{1,6})|#(\d{1,7})|(lt|gt|amp|quot|apos));/gi, (whole, hex, decimal, name) => {
    if (name) return NAMED[String(name).toLowerCase()] ?? whole;
    const code = hex ? Number.parseInt(String(hex), 16) : Number(decimal);
    return code <= 0x10ffff ? String.fromCodePoint(code) : '';
  });

export const childOf = (element: XmlElement | undefined, name: string): XmlElement | undefined =>
  element?.children.find((child) => child.name === name);

export const childrenOf = (element: XmlElement | undefined, name: string): XmlElement[] =>
  element?.children.filter((child) => child.name === name) ?? [];

/** The text of a child; empty where there is none. */
export const textOf = (element: XmlElement | undefined, name: string): string =>
  childOf(element, name)?.text ?? '';

/** The number a child holds; `otherwise` where it holds none. */
export function numberOf(element: XmlElement | undefined, name: string, otherwise: number): number {
  const text = textOf(element, name);
  const value = Number(text);
  return text === '' || !Number.isFinite(value) ? otherwise : value;
}
