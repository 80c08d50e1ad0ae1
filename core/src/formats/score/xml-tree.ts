import { XMLBuilder, XMLParser, XMLValidator } from 'fast-xml-parser';
import { UnreadableScore } from './score';

/** One element of an XML file: its name, attributes, children in order, and its text. */
export interface Element {
  name: string;
  attributes: Readonly<Record<string, string>>;
  children: Element[];
  text: string;
}

type Ordered = Record<string, unknown>;

const ENTITIES: Record<string, string> = { amp: '&', lt: '<', gt: '>', quot: '"', apos: "'" };

/** The five entities that XML itself has, and characters by number. Others are never expanded. */
const decoded = (text: string): string =>
  text.replace(/&(?:#(\d{1,7})|#x([\da-f]{1,6})|([a-z]+));/gi, (whole, decimal, hex, name: string | undefined) => {
    if (name) return ENTITIES[name] ?? whole;
    const code = decimal ? Number(decimal) : Number.parseInt(hex, 16);
    return code > 0 && code <= 0x10ffff ? String.fromCodePoint(code) : whole;
  });

const elementOf = (node: Ordered): Element | null => {
  const name = Object.keys(node).find((key) => key !== ':@');
  if (!name || name.startsWith('#') || name.startsWith('?')) return null;
  const inside = node[name] as Ordered[];
  const attributes = (node[':@'] ?? {}) as Record<string, string>;
  const text = inside.map((child) => ('#text' in child ? String(child['#text']) : '')).join('');
  return { name, attributes, text: decoded(text).trim(), children: inside.flatMap((child) => elementOf(child) ?? []) };
};

/**
 * The root element of an XML text. Files that declare entities of their own are refused, so that none can expand without end. Throws
 * {@link UnreadableScore}.
 */
export const parseXml = (text: string): Element => {
  if (/<!ENTITY/i.test(text))
    throw new UnreadableScore(
      'This file declares entities of its own, which music files do not need. Export it again and try once more.',
    );
  const parser = new XMLParser({
    preserveOrder: true,
    ignoreAttributes: false,
    attributeNamePrefix: '',
    parseTagValue: false,
    parseAttributeValue: false,
    processEntities: false,
    htmlEntities: false,
    ignoreDeclaration: true,
    ignorePiTags: true,
    trimValues: true,
  });
  let root: Element | undefined;
  try {
    if (XMLValidator.validate(text) !== true) throw new Error('not well-formed');
    root = (parser.parse(text) as Ordered[]).flatMap((node) => elementOf(node) ?? []).at(0);
  } catch {
    // Elements within elements without end overflow the stack, and are caught here too.
    throw new UnreadableScore('This is not well-formed XML, or it is damaged. Export it again and try once more.');
  }
  if (!root) throw new UnreadableScore('There is nothing in this file. Export it again and try once more.');
  return root;
};

/** The first child of a name, or null. */
export const childOf = (element: Element | null | undefined, name: string): Element | null =>
  element?.children.find((child) => child.name === name) ?? null;

/** All children of a name. */
export const childrenOf = (element: Element | null | undefined, name: string): Element[] =>
  element?.children.filter((child) => child.name === name) ?? [];

/** The text of the first child of a name; empty where there is none. */
export const textOf = (element: Element | null | undefined, name: string): string => childOf(element, name)?.text ?? '';

/** The number in the text of the first child of a name, or null. */
export const numberOf = (element: Element | null | undefined, name: string): number | null => {
  const text = textOf(element, name);
  const value = Number(text);
  return text !== '' && Number.isFinite(value) ? value : null;
};

/** An element to be written. */
export interface Written {
  name: string;
  attributes?: Readonly<Record<string, string | number>>;
  inside?: readonly (Written | null | false | undefined)[] | string | number;
}

const toOrdered = ({ name, attributes = {}, inside = [] }: Written): Ordered => ({
  [name]: Array.isArray(inside)
    ? inside.flatMap((child: Written | null | false | undefined) => (child ? [toOrdered(child)] : []))
    : [{ '#text': String(inside) }],
  ...(Object.keys(attributes).length ? { ':@': attributes } : {}),
});

/** Writes elements as XML, indented. */
export const writeXml = (root: Written, head = ''): string => {
  const builder = new XMLBuilder({
    preserveOrder: true,
    ignoreAttributes: false,
    attributeNamePrefix: '',
    format: true,
    indentBy: ' ',
    suppressEmptyNode: true,
    processEntities: true,
  });
  return `<?xml version="1.0" encoding="UTF-8"?>\n${head}${String(builder.build([toOrdered(root)])).trimStart()}\n`;
};
