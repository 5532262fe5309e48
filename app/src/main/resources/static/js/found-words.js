/* Marks the words that were searched for where they stand: in the rows, in the open message, in its HTML. */
(() => {
  'use strict';

  if (!window.CSS?.highlights) return; // The browser cannot; everything else works.

  const MOST_MARKS = 2000;
  const NAME = 'found';
  let waiting = false;

  /** As the server folds a sign; several letters stand for one place in the text. */
  const fold = (sign) => sign.normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase()
    .replace(/ß/g, 'ss').replace(/æ/g, 'ae').replace(/œ/g, 'oe').replace(/ø/g, 'o').replace(/đ/g, 'd').replace(/ł/g, 'l').replace(/\u00ad/g, '');

  const quoted = (word) => word.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');

  /** One expression for all; each line says how a word must stand, and its forms. */
  const wanted = () => {
    const lines = document.querySelector('[data-marked]')?.dataset.marked;
    if (!lines) return null;
    const each = lines.split('\n').map((line) => {
      const [how, ...words] = line.split(' ');
      const phrase = words.map((forms) => `(?:${forms.split('|').map(quoted).join('|')})`).join('[^\\p{L}\\p{N}]+');
      return how === 'part' ? phrase : `(?<![\\p{L}\\p{N}])${phrase}${how === 'whole' ? '(?![\\p{L}\\p{N}])' : ''}`;
    });
    return new RegExp(each.join('|'), 'gu');
  };

  const rangesIn = (root, expression, ranges) => {
    const walker = root.ownerDocument.createTreeWalker(root, NodeFilter.SHOW_TEXT);
    for (let node = walker.nextNode(); node && ranges.length < MOST_MARKS; node = walker.nextNode()) {
      const places = [];
      let folded = '';
      let at = 0;
      for (const sign of node.data) {
        const letters = fold(sign);
        for (let i = 0; i < letters.length; i++) places.push(at);
        folded += letters;
        at += sign.length;
      }
      places.push(at);
      for (const match of folded.matchAll(expression)) {
        if (!match[0]) continue;
        const range = root.ownerDocument.createRange();
        range.setStart(node, places[match.index]);
        range.setEnd(node, places[match.index + match[0].length]);
        ranges.push(range);
      }
    }
  };

  /** Where in the open message the words stand; the one that was gone to last. */
  let inSheet = [];
  let at = -1;
  /** The heading of the message that they are in. */
  let shown = null;

  const mark = () => {
    waiting = false;
    const expression = wanted();
    const ranges = [];
    if (expression) {
      document.querySelectorAll('#rows .row').forEach((root) => rangesIn(root, expression, ranges));
      const before = ranges.length;
      document.querySelectorAll('#sheet').forEach((root) => rangesIn(root, expression, ranges));
      inSheet = ranges.slice(before);
    } else {
      inSheet = [];
    }
    const heading = document.querySelector('#sheet h2');
    if (heading !== shown) {
      shown = heading;
      at = -1;
      CSS.highlights.delete(NAME + '-here');
    }
    document.querySelectorAll('[data-next-word]').forEach((one) => {
      one.hidden = !inSheet.length;
      one.querySelector('b').textContent = inSheet.length === 1 ? '1 place' : `${inSheet.length} places`;
    });
    if (ranges.length) CSS.highlights.set(NAME, new Highlight(...ranges));
    else CSS.highlights.delete(NAME);
  };

  const next = () => {
    if (!inSheet.length) return;
    at = (at + 1) % inSheet.length;
    const range = inSheet[at];
    const fold = range.startContainer.parentElement.closest('details');
    if (fold) fold.open = true;
    range.startContainer.parentElement.scrollIntoView({ block: 'center' });
    CSS.highlights.set(NAME + '-here', new Highlight(range));
    schublade.say(`Word ${at + 1} of ${inSheet.length}`);
  };

  document.addEventListener('click', (event) => { if (event.target.closest('[data-next-word]')) next(); });

  const markSoon = () => {
    if (waiting) return;
    waiting = true;
    requestAnimationFrame(mark);
  };

  /** What comes and goes there says nothing of messages. */
  const ELSEWHERE = '#heard, #notice, #facets, #figures, #cabinet, #finds, #chips, .understood';
  let any = false;
  new MutationObserver((changes) => {
    if (changes.every((change) => change.target.closest?.(ELSEWHERE))) return;
    const marked = document.querySelector('[data-marked]') !== null;
    if (marked || any) markSoon();
    any = marked;
  }).observe(document.documentElement, { childList: true, subtree: true });
})();
