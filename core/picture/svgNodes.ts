import { SaxesParser } from 'saxes';

/** Characters of a file, elements in it (also after copies are set out), and how deep they nest. */
const MOST_TEXT = 4_000_000;
export const MOST_ELEMENTS = 20_000;
const MOST_DEPTH = 200;

export interface Node {
  readonly name: string;
  readonly attributes: Record<string, string>;
  readonly children: Node[];
  text: string;
}

/** A file that is not taken, and why. */
export class Refusal extends Error {}

const localName = (name: string): string => name.slice(name.indexOf(':') + 1);

/** The elements of a file as a tree. Nothing in it is run, fetched or expanded; what could ask for that is refused. */
export function parsed(text: string): Node {
  if (text.length > MOST_TEXT) throw new Refusal('This drawing is too large: at most 4 MB.');
  const parser = new SaxesParser();
  const open: Node[] = [];
  let root: Node | null = null;
  let count = 0;
  const stop = (why: string): never => {
    throw new Refusal(why);
  };
  parser.on('doctype', (doctype) => {
    if (/\[|<!ENTITY/i.test(doctype))
      stop('This drawing declares entities of its own, which are not taken: save it as plain SVG.');
  });
  parser.on('opentag', (tag) => {
    count++;
    if (count > MOST_ELEMENTS)
      stop(`This drawing has more than ${MOST_ELEMENTS} elements: simplify it first.`);
    if (open.length > MOST_DEPTH) stop('This drawing nests its groups too deep: ungroup it first.');
    const name = localName(tag.name);
    const attributes = tag.attributes as Record<string, string>;
    if (name === 'script') stop('This drawing has a script in it; scripts are not taken.');
    if (name === 'foreignObject' || name === 'iframe')
      stop('This drawing has a foreign page in it, which is not taken: save it as plain SVG.');
    for (const [key, value] of Object.entries(attributes))
      if (
        localName(key) === 'href' &&
        !value.startsWith('#') &&
        name !== 'a' &&
        !value.startsWith('data:image/')
      )
        stop(
          `This drawing fetches something from elsewhere (${value.slice(0, 60)}): embed it or take it out.`,
        );
    const node: Node = { name, attributes, children: [], text: '' };
    if (open.length > 0) open[open.length - 1].children.push(node);
    else root = node;
    open.push(node);
  });
  parser.on('closetag', () => void open.pop());
  parser.on('text', (more) => {
    const top = open.at(-1);
    if (top?.name === 'style') top.text += more;
  });
  parser.on('cdata', (more) => {
    const top = open.at(-1);
    if (top?.name === 'style') top.text += more;
  });
  parser.on('error', (error) => {
    throw error;
  });
  try {
    parser.write(text).close();
  } catch (error) {
    if (error instanceof Refusal) throw error;
    throw new Refusal(`This is not a whole SVG drawing: ${(error as Error).message.slice(0, 120)}.`);
  }
  const found = root as Node | null;
  if (found?.name !== 'svg') throw new Refusal('This is not an SVG drawing.');
  return found;
}
