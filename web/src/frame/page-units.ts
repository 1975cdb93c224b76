import { unitEdits, wordsIn, type ChosenUnits } from '@ample-crane/core';

/** Attributes that are read out or shown as words. */
const SAID = ['aria-label', 'aria-valuetext', 'title'];

/**
 * Puts every length, film and temperature that stands on the page into the units somebody chose, as a browser translates a page: in
 * the texts that are drawn, whoever drew them. What is asked, typed, filed and kept stays metric. Nothing is read back from the page:
 * what was drawn is remembered, and turned anew whenever it is drawn anew.
 * @returns stops it, and puts back what was drawn
 */
export function turnPage(root: HTMLElement, units: ChosenUnits): () => void {
  if (units.length === 'mm' && units.temperature === 'C') return () => undefined;
  const drawn = new Map<Text, string>();
  const said = new Map<Element, Map<string, string>>();

  /** A number and its unit may be texts of their own beside each other: they are read as one. */
  const turnTexts = (parent: Node): void => {
    let run: Text[] = [];
    const turnRun = (): void => {
      turn(run);
      run = [];
    };
    for (const node of parent.childNodes) {
      if (node instanceof Text) run.push(node);
      else if (node.nodeType !== Node.COMMENT_NODE) turnRun();
    }
    turnRun();
  };
  const turn = (run: readonly Text[]): void => {
    const raw = run.map((node) => drawn.get(node) ?? node.data);
    const edits = unitEdits(raw.join(''), units);
    let from = 0;
    for (const [i, node] of run.entries()) {
      const own = raw[i] ?? '';
      const to = from + own.length;
      const told = edits.reduceRight((text, edit) => {
        if (edit.end <= from || edit.start >= to) return text;
        // What lies across two texts is told by the first.
        const begins = edit.start >= from;
        return (
          text.slice(0, Math.max(0, edit.start - from)) +
          (begins ? edit.text : '') +
          text.slice(edit.end - from)
        );
      }, own);
      if (told === own) drawn.delete(node);
      else drawn.set(node, own);
      if (node.data !== told) node.data = told;
      from = to;
    }
  };
  const turnSaid = (element: Element): void => {
    for (const name of SAID) {
      const raw = element.getAttribute(name);
      const told = raw === null ? null : wordsIn(raw, units);
      if (raw === null || told === null || told === raw) {
        said.get(element)?.delete(name);
        continue;
      }
      said.set(element, (said.get(element) ?? new Map<string, string>()).set(name, raw));
      element.setAttribute(name, told);
    }
  };
  const turnAll = (top: Element): void => {
    for (const element of [top, ...top.querySelectorAll('*')]) {
      turnTexts(element);
      if (!said.has(element)) turnSaid(element);
    }
  };

  const observer = new MutationObserver((changes) => {
    const parents = new Set<Node>();
    for (const { type, target, addedNodes, removedNodes, attributeName } of changes) {
      if (type === 'characterData') {
        // Drawn anew, whatever it said before.
        if (target instanceof Text) drawn.delete(target);
        if (target.parentNode) parents.add(target.parentNode);
      } else if (type === 'attributes' && target instanceof Element && attributeName) {
        said.get(target)?.delete(attributeName);
        turnSaid(target);
      } else {
        for (const node of removedNodes) forget(node);
        for (const node of addedNodes) if (node instanceof Element) turnAll(node);
        parents.add(target);
      }
    }
    for (const parent of parents) turnTexts(parent);
    // What was changed here is no news.
    observer.takeRecords();
  });
  /** What has left the page may come back as it was drawn. */
  const forget = (node: Node): void => {
    if (node.isConnected) return;
    for (const [text, raw] of drawn) {
      if (!node.contains(text)) continue;
      text.data = raw;
      drawn.delete(text);
    }
    for (const element of said.keys()) if (node.contains(element)) said.delete(element);
  };

  turnAll(root);
  observer.observe(root, {
    ...{ subtree: true, childList: true, characterData: true },
    attributes: true,
    attributeFilter: SAID,
  });
  return () => {
    observer.disconnect();
    for (const [text, raw] of drawn) text.data = raw;
    for (const [element, names] of said) for (const [name, raw] of names) element.setAttribute(name, raw);
  };
}
