/* Recipients as they are typed: each a plate of its own, that can be taken out or typed anew. */
(() => {
  'use strict';

  const ADDRESS = /^[A-Za-z0-9!#$%&'*+/=?^_`{|}~.-]+@[A-Za-z0-9-]+(\.[A-Za-z0-9-]+)+$/;

  /** One after the other: commas, semicolons and new lines that are not quoted stand between; of a group, its members. */
  const split = (typed) => {
    const all = [];
    let one = '';
    let quoted = false;
    let escaped = false;
    for (const sign of typed) {
      if (sign === '"' && !escaped) quoted = !quoted;
      escaped = quoted && sign === '\\' && !escaped;
      if (!quoted && /[,;\n]/.test(sign)) {
        all.push(one);
        one = '';
      } else if (!quoted && sign === ':' && !one.includes('<')) {
        one = ''; // The name of a group (RFC 5322, section 3.4).
      } else {
        one += sign;
      }
    }
    return [...all, one].map((text) => text.trim()).filter(Boolean);
  };

  const emailOf = (text) => (/<([^<>]*)>$/.exec(text)?.[1] ?? text).trim();
  const nameOf = (text) => text.replace(/<[^<>]*>$/, '').trim().replace(/^"(.*)"$/, '$1').replace(/\\(.)/g, '$1') || emailOf(text);

  /** Where one types. */
  const field = (box) => box.querySelector('input:not([type=hidden])');

  const plates = (box) => [...box.querySelectorAll('.recipient')];

  const plate = (box, text) => {
    const one = document.createElement('span');
    const right = ADDRESS.test(emailOf(text));
    one.className = right ? 'recipient' : 'recipient wrong';
    one.dataset.typed = text;
    one.title = right ? emailOf(text) : `“${text}” is not an address.`;
    const words = Object.assign(document.createElement('button'), { type: 'button', className: 'words', textContent: nameOf(text), tabIndex: -1 });
    words.setAttribute('aria-label', `${nameOf(text)}: type it anew`);
    const out = Object.assign(document.createElement('button'), { type: 'button', className: 'out', textContent: '×', tabIndex: -1, title: 'Take it out' });
    out.setAttribute('aria-label', `Take out ${nameOf(text)}`);
    one.append(words, out);
    field(box).before(one);
    return right;
  };

  const written = (box) => {
    const typed = field(box).value.trim();
    return [...plates(box).map((one) => one.dataset.typed), typed].filter(Boolean).join(', ');
  };

  const changed = (box) => {
    const kept = box.querySelector('input[type=hidden]');
    kept.value = written(box);
    kept.dispatchEvent(new Event('input', { bubbles: true }));
  };

  /** What has been typed so far becomes plates; of what is no address it is said at once. */
  const take = (box, typed = null) => {
    const input = field(box);
    const all = split(typed ?? input.value);
    if (typed === null) input.value = '';
    const known = plates(box).map((one) => emailOf(one.dataset.typed).toLowerCase());
    const wrong = all.filter((text) => !known.includes(emailOf(text).toLowerCase())).filter((text) => !plate(box, text));
    if (wrong.length > 0) schublade.tell(`“${wrong[0]}” is not an address: click it to correct it.`, true);
    if (all.length > 0) changed(box);
  };

  const typeAnew = (box, one) => {
    const input = field(box);
    take(box);
    input.value = one.dataset.typed;
    one.remove();
    input.focus();
    changed(box);
  };

  const takeOut = (box, one) => {
    one.remove();
    field(box).focus();
    changed(box);
  };

  const fill = (label) => {
    const input = label.querySelector('input');
    const box = document.createElement('span');
    box.className = 'recipients form-control';
    const kept = Object.assign(document.createElement('input'), { type: 'hidden', name: input.name, value: input.value });
    input.before(box);
    box.append(kept, input);
    input.removeAttribute('name');
    input.classList.remove('form-control');
    input.value = '';
    split(kept.value).forEach((text) => plate(box, text));
  };

  const begin = () => {
    const form = document.querySelector('.compose:not([data-plates])');
    if (!form) return;
    form.dataset.plates = '';
    form.querySelectorAll('[data-recipients]').forEach(fill);
    const copies = [...form.querySelectorAll('.copies')];
    const none = copies.every((one) => !one.querySelector('input[type=hidden]')?.value);
    copies.forEach((one) => { one.hidden = none; });
    form.querySelector('.more-recipients').hidden = !none;
    form.addEventListener('brought-back', () => {
      form.querySelectorAll('.recipients').forEach((box) => {
        plates(box).forEach((one) => one.remove());
        split(box.querySelector('input[type=hidden]').value).forEach((text) => plate(box, text));
      });
    });
  };

  const boxOf = ({ target }) => target.closest?.('.recipients');

  document.addEventListener('keydown', (event) => {
    const box = boxOf(event);
    if (!box || !event.target.matches('input') || event.isComposing || event.ctrlKey || event.metaKey) return;
    const last = plates(box).at(-1);
    if (event.key === 'Enter') {
      event.preventDefault(); // It is sent by its own key alone.
      take(box);
    } else if ([',', ';'].includes(event.key) && (event.target.value.match(/"/g) ?? []).length % 2 === 0) {
      event.preventDefault();
      take(box);
    } else if (event.key === 'Backspace' && event.target.value === '' && last) {
      event.preventDefault();
      typeAnew(box, last);
    }
  });

  document.addEventListener('input', (event) => {
    const box = boxOf(event);
    if (!box || !event.target.matches('[list]')) return;
    // Chosen from what was proposed.
    if (event.inputType === 'insertReplacementText' || !event.inputType) take(box);
    else changed(box);
  });

  document.addEventListener('paste', (event) => {
    const box = boxOf(event);
    const text = box && event.clipboardData.getData('text/plain');
    if (!text || !/[,;\n@]/.test(text)) return;
    event.preventDefault();
    take(box, text);
  });

  document.addEventListener('focusout', (event) => {
    const box = boxOf(event);
    if (box && event.target.matches('input') && !box.contains(event.relatedTarget)) take(box);
  });

  // Whatever is sent has what stands in the field, too.
  document.addEventListener('submit', ({ target }) => {
    if (target.id === 'compose') target.querySelectorAll('.recipients').forEach((box) => take(box));
  }, { capture: true });

  document.addEventListener('click', (event) => {
    if (event.target.closest('[data-shows-copies]')) {
      const form = event.target.closest('form');
      form.querySelectorAll('.copies').forEach((one) => { one.hidden = false; });
      form.querySelector('.more-recipients').hidden = true;
      form.querySelector('.copies input:not([type=hidden])').focus();
    }
    const box = boxOf(event);
    if (!box) return;
    const one = event.target.closest('.recipient');
    if (event.target.closest('.out')) takeOut(box, one);
    else if (one) typeAnew(box, one);
    if (one || event.target.closest('.out')) event.preventDefault();
  });

  document.addEventListener('htmx:load', begin);
  addEventListener('load', begin);
})();
