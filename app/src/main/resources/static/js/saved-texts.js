/* Texts that are written often: put in by a few letters or from a menu, with gaps to go through. */
(() => {
  'use strict';

  const LETTERS = /(^|\s);([\p{L}\p{N}-]{1,40})$/u;
  const GAP = /\{[^{}\n]{1,60}\}/g;

  const recipients = (form) => form.elements.to?.value ?? '';

  /** The words of an element in which one writes, without what is quoted: each with the text node that they stand in. */
  const ownTexts = (root) => {
    const walker = document.createTreeWalker(root, NodeFilter.SHOW_TEXT, (node) => (node.parentElement.closest('blockquote') ? NodeFilter.FILTER_REJECT : NodeFilter.FILTER_ACCEPT));
    const all = [];
    while (walker.nextNode()) all.push(walker.currentNode);
    return all;
  };

  /** Marks the next gap behind the cursor, or the first one. Returns whether there is one. */
  const toGap = (form) => {
    const root = schublade.editorOf(form);
    if (!root) {
      const area = form.elements.body;
      const own = area.value.split(/^>/m)[0];
      const all = [...own.matchAll(GAP)];
      const gap = all.find((one) => one.index >= area.selectionEnd) ?? all[0];
      if (gap) area.setSelectionRange(gap.index, gap.index + gap[0].length);
      return Boolean(gap);
    }
    const at = getSelection().rangeCount ? getSelection().getRangeAt(0) : null;
    const gaps = ownTexts(root).flatMap((node) => [...node.data.matchAll(GAP)].map(({ index, 0: { length } }) => {
      const range = document.createRange();
      range.setStart(node, index);
      range.setEnd(node, index + length);
      return range;
    }));
    const isAhead = (one) => {
      const order = at ? one.compareBoundaryPoints(Range.START_TO_START, at) : -1;
      return order > 0 || (order === 0 && at.collapsed);
    };
    const gap = gaps.find(isAhead) ?? gaps[0];
    if (gap) schublade.markIn(form, gap);
    return Boolean(gap);
  };

  /** In the place of the letters before the cursor, if it was called by these. */
  const putIn = (form, filled, letters = 0) => {
    const root = schublade.editorOf(form);
    if (root) {
      if (letters) {
        const range = getSelection().getRangeAt(0).cloneRange();
        range.setStart(range.startContainer, range.startOffset - letters);
        schublade.markIn(form, range);
      }
      schublade.insertIn(form, filled.html);
    } else {
      const area = form.elements.body;
      area.setRangeText(filled.text, area.selectionStart - letters, area.selectionEnd, 'end');
      area.dispatchEvent(new Event('input', { bubbles: true }));
    }
    if (filled.text.match(GAP)) toGap(form);
  };

  const lettersBefore = (form) => {
    const root = schublade.editorOf(form);
    const area = form.elements.body;
    if (!root) return area.selectionStart === area.selectionEnd ? LETTERS.exec(area.value.slice(0, area.selectionStart))?.[2] : null;
    const { anchorNode, anchorOffset, isCollapsed } = getSelection();
    return isCollapsed && anchorNode?.nodeType === Node.TEXT_NODE ? LETTERS.exec(anchorNode.data.slice(0, anchorOffset))?.[2] : null;
  };

  document.addEventListener('keydown', async (event) => {
    const form = event.target.closest?.('.compose');
    if (event.key !== 'Tab' || event.shiftKey || event.isComposing || !event.target.closest?.('.writing > textarea, .editor')) return;
    const letters = lettersBefore(form);
    if (!letters) {
      if (toGap(form)) event.preventDefault();
      return;
    }
    event.preventDefault();
    const filled = await schublade.fetchJson('/texts/meant?' + new URLSearchParams({ letters, to: recipients(form) }));
    if (filled?.text && lettersBefore(form) === letters) putIn(form, filled, letters.length + 1);
    else if (!filled?.text) schublade.tell(`No text is called “${letters}…”.`, true);
  }, { capture: true });

  document.addEventListener('click', async ({ target }) => {
    const chosen = target.closest('[data-saved-text]');
    const form = document.querySelector('.compose');
    if (!chosen || !form) return;
    document.getElementById('place-menu').hidePopover();
    const filled = await schublade.fetchJson(`/texts/${chosen.dataset.savedText}/filled?` + new URLSearchParams({ to: recipients(form) }));
    if (filled) putIn(form, filled);
    else schublade.tell('That text is gone.', true);
  });

  document.addEventListener('click', async ({ target }) => {
    const button = target.closest('.puts-text');
    if (button && await schublade.ask('/texts/menu', { into: 'place-menu' })) schublade.showMenu(button);
  });
})();
