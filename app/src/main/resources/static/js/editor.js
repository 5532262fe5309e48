/* The text of a message with its formatting: an editor in the place of the text field, which stays for plain text. */
(() => {
  'use strict';

  const ALLOWED = new Set('P DIV BR HR B STRONG I EM U S SUB SUP CODE PRE UL OL LI BLOCKQUOTE H1 H2 H3 TABLE THEAD TBODY TFOOT TR TD TH A IMG'.split(' '));
  const BLOCKS = new Set('SECTION ARTICLE HEADER FOOTER MAIN NAV ASIDE ADDRESS CENTER FIGURE FIGCAPTION FORM FIELDSET DL DT DD H4 H5 H6 DETAILS SUMMARY'.split(' '));
  const UNSEEN = new Set('SCRIPT X-STYLE STYLE HEAD TITLE META LINK BASE TEMPLATE NOSCRIPT SELECT TEXTAREA OBJECT EMBED IFRAME FRAMESET AUDIO VIDEO CANVAS INPUT'.split(' '));
  const LINK = /^(https?:|mailto:)/i;
  /** A picture of a draft's text, as the page shows it. */
  const PICTURE = /^\/write\/\d+\/pictures\/[\w.@-]+$/;
  const DEEPEST = 60;
  /** So wide a picture is shown at first, in CSS pixels. */
  const WIDEST = 640;

  const TAG = /<(\/?)([a-z][^\s/<>"']*)((?:"[^"]*"|'[^']*'|[^'"<>]){0,4000})>/gi;
  const ATTRIBUTE = /\s(href|src|alt|width|colspan|rowspan|hidden|style)(?=[\s/=>]|$)(\s*=\s*(?:"[^"]*"|'[^']*'|[^\s"']+))?/gi;
  const STYLE = 'data-was-style';

  /** Only what is looked at reaches the parser: even there, the policy of this page complains of styles and handlers. */
  const bare = (html) => html.replace(TAG, (tag, end, name, rest) => {
    if (name.toLowerCase() === 'style') return `<${end}x-style>`;
    const kept = [...rest.matchAll(ATTRIBUTE)].map(([, attribute, value = '']) => ` ${attribute.toLowerCase() === 'style' ? STYLE : attribute}${value}`);
    return `<${end}${name}${kept.join('')}>`;
  });

  const has = (element, style) => style.test(element.getAttribute(STYLE) ?? '');

  /** What is bold or slanted by its style is so by its element. */
  const styled = (element, into) => {
    const bold = has(element, /font-weight\s*:\s*(bold|[6-9]00)/i);
    const slanted = has(element, /font-style\s*:\s*italic/i);
    for (const name of [bold && 'b', slanted && 'i']) if (name) into = into.appendChild(document.createElement(name));
    return into;
  };

  const pictureOf = (element) => {
    const copy = document.createElement('img');
    for (const name of ['src', 'alt', 'width']) if (element.hasAttribute(name)) copy.setAttribute(name, element.getAttribute(name));
    return copy;
  };

  const copied = (element) => {
    const name = element.nodeName;
    if (element.namespaceURI !== 'http://www.w3.org/1999/xhtml') return null;
    if (BLOCKS.has(name)) return document.createElement('div');
    if (!ALLOWED.has(name) || (['B', 'STRONG'].includes(name) && has(element, /font-weight\s*:\s*(normal|400)/i))) return null;
    if (name === 'IMG') return PICTURE.test(element.getAttribute('src') ?? '') ? pictureOf(element) : null;
    const copy = document.createElement(name);
    if (name === 'A' && LINK.test(element.getAttribute('href') ?? '')) copy.setAttribute('href', element.getAttribute('href'));
    for (const span of ['colspan', 'rowspan']) if (/^\d{1,2}$/.test(element.getAttribute(span) ?? '') && /^T[DH]$/.test(name)) copy.setAttribute(span, element.getAttribute(span));
    return copy;
  };

  const copyInto = (from, into, depth) => {
    for (const node of from.childNodes) {
      if (node.nodeType === Node.TEXT_NODE) into.append(node.data);
      if (node.nodeType !== Node.ELEMENT_NODE || UNSEEN.has(node.nodeName.toUpperCase()) || node.hidden || has(node, /display\s*:\s*none/i)) continue;
      const copy = copied(node);
      if (copy) into.append(copy);
      if (depth < DEEPEST) copyInto(node, styled(node, copy ?? into), depth + 1);
      else (copy ?? into).append(node.textContent);
    }
  };

  /** What is pasted, or comes from a message: only what is allowed of it, made anew. */
  const safe = (html) => {
    const fragment = document.createDocumentFragment();
    copyInto(new DOMParser().parseFromString(bare(html), 'text/html').body, fragment, 0);
    return fragment;
  };

  /** The editors, by their forms. */
  const editors = new WeakMap();
  let isRead = false;
  /** Those that listen to the document, until their page is left. */
  const open = new Set();

  const PRESSED = { bold: 'B', italic: 'I', list: 'UL', numbers: 'OL', heading: 'H2', quote: 'BLOCKQUOTE', link: 'A' };

  /** Whether what is marked, or where one stands, is within such an element. */
  const isIn = (editor, tag) => editor.hasFormat(tag) || new RegExp(`(^|>)${tag}(?![A-Z0-9])`).test(editor.getPath());

  const toggle = (editor, tag, on, off) => (isIn(editor, tag) ? off : on)();

  const heading = (editor) => editor.modifyBlocks((fragment) => {
    const isHeading = fragment.querySelector('h2');
    fragment.querySelectorAll(isHeading ? 'h2' : 'p').forEach((block) => {
      const other = document.createElement(isHeading ? 'p' : 'h2');
      other.append(...block.childNodes);
      block.replaceWith(other);
    });
    return fragment;
  });

  const FORMATS = {
    bold: (editor) => toggle(editor, 'B', () => editor.bold(), () => editor.removeBold()),
    italic: (editor) => toggle(editor, 'I', () => editor.italic(), () => editor.removeItalic()),
    list: (editor) => toggle(editor, 'UL', () => editor.makeUnorderedList(), () => editor.removeList()),
    numbers: (editor) => toggle(editor, 'OL', () => editor.makeOrderedList(), () => editor.removeList()),
    heading,
    quote: (editor) => toggle(editor, 'BLOCKQUOTE', () => editor.increaseQuoteLevel(), () => editor.decreaseQuoteLevel()),
  };

  const showFormats = (form, editor) => {
    form.querySelectorAll('[data-format]').forEach((button) => {
      const tag = PRESSED[button.dataset.format];
      if (tag) button.setAttribute('aria-pressed', String(isIn(editor, tag)));
    });
  };

  /* Pictures of the text: called by their Content-ID where they are kept, by their address where they are shown. */
  const picturesOf = (form) => form.dataset.keeps.replace(/keep$/, 'pictures/');
  const withAddresses = (form, html) => html.replaceAll('src="cid:', `src="${picturesOf(form)}`);
  const withIds = (form, html) => html.replaceAll(`src="${picturesOf(form)}`, 'src="cid:');

  /** Puts a picture where the cursor is. */
  schublade.putPicture = async (form, address, name) => {
    const picture = Object.assign(new Image(), { src: address });
    await picture.decode().catch(() => {});
    editors.get(form)?.editor.insertImage(address, { alt: name, width: Math.min(picture.naturalWidth || WIDEST, WIDEST) });
  };

  /** Where one writes with formatting, if one does. */
  schublade.editorOf = (form) => editors.get(form)?.root ?? null;

  schublade.markIn = (form, range) => editors.get(form).editor.setSelection(range);

  schublade.insertIn = (form, html) => {
    const { editor } = editors.get(form);
    editor.focus();
    editor.insertHTML(html);
  };

  /** The cursor goes to where something is dropped. */
  schublade.putCursor = (form, { clientX, clientY }) => {
    const range = document.caretRangeFromPoint?.(clientX, clientY);
    const known = editors.get(form);
    if (range && known?.root.contains(range.startContainer)) known.editor.setSelection(range);
  };

  const start = (form, html) => {
    for (const one of [...open]) {
      if (one.root.isConnected) continue;
      one.editor.destroy();
      open.delete(one);
    }
    const area = form.elements.body;
    const root = document.createElement('div');
    root.className = 'editor form-control';
    root.setAttribute('role', 'textbox');
    root.setAttribute('aria-multiline', 'true');
    root.setAttribute('aria-label', area.getAttribute('aria-label'));
    area.before(root);
    area.hidden = true;
    const editor = new Squire(root, { blockTag: 'P', sanitizeToDOMFragment: safe, tagAttributes: {} });
    editor.setHTML(withAddresses(form, html));
    editor.moveCursorToStart();
    editors.set(form, { editor, root });
    open.add({ editor, root });
    editor.addEventListener('input', () => { if (!isRead) area.dispatchEvent(new Event('input', { bubbles: true })); });
    editor.addEventListener('pathChange', () => showFormats(form, editor));
    editor.addEventListener('select', () => showFormats(form, editor));
    showMode(form);
  };

  const stop = (form) => {
    const { editor, root } = editors.get(form);
    editor.destroy();
    root.remove();
    editors.delete(form);
    form.elements.body.hidden = false;
    showMode(form);
  };

  const showMode = (form) => {
    const isPlain = !editors.has(form);
    form.querySelectorAll('[data-format]').forEach((button) => {
      if (button.dataset.format === 'plain') button.setAttribute('aria-pressed', String(isPlain));
      else button.hidden = isPlain;
    });
  };

  const focus = (form) => {
    const { editor } = editors.get(form) ?? {};
    if (editor) editor.focus();
    else form.elements.body.focus();
  };

  /** The server has both; what is typed is with it first. */
  const changeMode = async (form) => {
    await schublade.keepDraft(form);
    const both = await schublade.fetchJson(form.dataset.keeps.replace(/keep$/, 'text'));
    if (!both || !form.isConnected) {
      schublade.tell('That did not work on the server. Please try again.', true);
      return;
    }
    if (editors.has(form)) {
      if (form.querySelector('.editor img')) schublade.tell('Plain text has no pictures: attach them as files if they are to go along.', true);
      stop(form);
      form.elements.body.value = both.text;
    } else {
      start(form, both.html);
    }
    focus(form);
    form.elements.body.dispatchEvent(new Event('input', { bubbles: true }));
  };

  const askForLink = (form, { editor }) => {
    const line = form.querySelector('.link-to');
    if (isIn(editor, 'A')) {
      editor.removeLink().focus();
      return;
    }
    line.hidden = false;
    line.querySelector('input').focus();
  };

  const closeLink = (form) => {
    const line = form.querySelector('.link-to');
    line.querySelector('input').value = '';
    line.hidden = true;
    editors.get(form)?.editor.focus();
  };

  const makeLink = (form) => {
    const typed = form.querySelector('.link-to input').value.trim();
    const address = LINK.test(typed) ? typed : typed.includes('@') && !typed.includes('/') ? `mailto:${typed}` : `https://${typed}`;
    closeLink(form);
    if (typed) editors.get(form)?.editor.makeLink(address);
  };

  document.addEventListener('click', ({ target }) => {
    const form = target.closest('.compose');
    if (!form) return;
    const { format } = target.closest('[data-format]')?.dataset ?? {};
    const known = editors.get(form);
    if (format === 'plain') changeMode(form);
    else if (format === 'link') askForLink(form, known);
    else if (format === 'picture') form.querySelector('.picture-file').click();
    else if (format) {
      FORMATS[format](known.editor);
      known.editor.focus();
      showFormats(form, known.editor);
    } else if (target.closest('.link-to .go')) makeLink(form);
    else if (target.closest('.link-to [data-closes]')) closeLink(form);
  });

  document.addEventListener('keydown', (event) => {
    const line = event.target.closest?.('.link-to');
    if (line && ['Enter', 'Escape'].includes(event.key)) {
      event.preventDefault();
      event.stopImmediatePropagation();
      if (event.key === 'Enter') makeLink(line.closest('form'));
      else closeLink(line.closest('form'));
    }
    const bar = event.target.closest?.('.formats');
    const by = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
    if (!bar || !by) return;
    event.preventDefault();
    const all = [...bar.querySelectorAll('button:not([hidden])')];
    all[(all.indexOf(event.target) + by + all.length) % all.length].focus();
  }, { capture: true });

  /** What somebody has written here, without what is quoted. */
  schublade.ownWords = (form) => {
    const known = editors.get(form);
    if (!known) return form.elements.body.value.split('\n').filter((line) => !line.startsWith('>')).join('\n');
    const copy = known.root.cloneNode(true);
    copy.querySelectorAll('blockquote').forEach((one) => one.remove());
    copy.querySelectorAll('p, div, li, br').forEach((one) => one.append('\n'));
    return copy.textContent;
  };

  /* The signature is that of the address that one writes from. */

  const lines = (text) => text.split('\n').map((line) => line.trim()).filter(Boolean).join('\n');

  /** Its blocks, one after the other, if it stands there as it was put; below, where it belongs, is what quotes somebody. */
  const signatureIn = (root, text) => {
    const all = [...root.children];
    for (let from = 0; from < all.length; from++) {
      let said = '';
      for (let to = from; to < all.length && said.length < text.length; to++) {
        said = lines(`${said}\n${all[to].innerText}`);
        if (said === text) return all.slice(from, to + 1);
      }
    }
    return [];
  };

  const blocksOf = (signature) => `-- \n${signature}`.split(/\n\s*\n/).map((text) => {
    const block = document.createElement('p');
    text.split('\n').forEach((line, at) => block.append(...(at ? [document.createElement('br')] : []), line));
    return block;
  });

  const changeSignature = (form, was, now) => {
    const old = was ? lines(`-- \n${was}`) : '';
    const known = editors.get(form);
    if (!known) {
      const area = form.elements.body;
      const [before, after] = [was, now].map((text) => (text ? `-- \n${text}\n` : ''));
      if (before && area.value.includes(before)) area.value = area.value.replace(before, () => after);
      else if (!before) area.value = area.value.replace(/\n*$|\n(?=\n?[^\n]*:\n>)/, () => `\n\n${after}`);
    } else {
      const there = old ? signatureIn(known.root, old) : [];
      if (old && there.length === 0) return; // It was changed by hand.
      const quote = [...known.root.children].find((one) => one.matches('blockquote'));
      const place = there[0] ?? (quote?.previousElementSibling?.innerText.trim().endsWith(':') ? quote.previousElementSibling : quote) ?? null;
      known.editor.saveUndoState();
      if (now) blocksOf(now).forEach((block) => known.root.insertBefore(block, place));
      there.forEach((one) => one.remove());
    }
    form.elements.body.dispatchEvent(new Event('input', { bubbles: true }));
  };

  /* An address that one correspondent alone is given, where the account has a pattern for such. */

  const showMaking = (form) => { form.querySelector('.more-from').hidden = !form.elements.from.selectedOptions[0]?.dataset.makes; };

  document.addEventListener('click', async ({ target }) => {
    const form = target.closest('[data-makes-address]')?.form;
    if (!form) return;
    const { from, to } = form.elements;
    const { signed } = from.dataset;
    const fields = new URLSearchParams({ from: from.value, to: to.value });
    if (!await schublade.ask(form.dataset.keeps.replace(/keep$/, 'address'), { method: 'POST', fields, into: 'compose-from', still: () => form.isConnected })) return;
    form.elements.from.dataset.signed = signed;
    for (const kind of ['change', 'input']) form.elements.from.dispatchEvent(new Event(kind, { bubbles: true }));
    schublade.tell(`${form.elements.from.selectedOptions[0].textContent.split(' · ')[0]} is yours, for this correspondent alone.`);
  });

  document.addEventListener('change', ({ target }) => {
    if (!target.matches('.compose [name=from]')) return;
    showMaking(target.form);
    const now = target.selectedOptions[0].dataset.signature ?? '';
    if (now !== target.dataset.signed) changeSignature(target.form, target.dataset.signed, now);
    target.dataset.signed = now;
  });

  const begin = () => {
    const form = document.querySelector('.compose');
    if (!form || 'begun' in form.dataset) return;
    form.dataset.begun = '';
    form.querySelector('.formats').hidden = false;
    // At the form itself: it is kept once more when it has left the page.
    form.addEventListener('formdata', ({ formData }) => {
      const known = editors.get(form);
      if (!known) return;
      isRead = true; // The editor may notice only now what was changed; it is in what is read.
      formData.set('html', withIds(form, known.editor.getHTML()));
      isRead = false;
    });
    const from = form.elements.from;
    from.dataset.signed = from.selectedOptions[0]?.dataset.signature ?? '';
    showMaking(form);
    const field = form.elements.html;
    if (field.value) start(form, field.value);
    else showMode(form);
    form.addEventListener('brought-back', () => {
      if (editors.has(form)) stop(form);
      if (field.value) start(form, field.value);
    });
    if (form.elements.body.dataset.first === 'true') focus(form);
    else form.querySelector('input[data-first=true]')?.focus();
  };
  document.addEventListener('htmx:load', begin);
  addEventListener('load', begin);
})();
