/* The find box: besides mail with the words, it offers people, places, searches, the first messages and the commands of the page. */
(() => {
  'use strict';

  const MOST_COMMANDS = 6;
  const MOST_PLACES = 5;
  let asked = 0;
  /** Ends what is asked for when something else is, or something was chosen. */
  let asking = new AbortController();

  const box = () => document.getElementById('find');
  const list = () => document.getElementById('finds');
  const options = () => [...list().querySelectorAll('[role=option]')];
  const selected = () => options().find((one) => one.getAttribute('aria-selected') === 'true');

  const close = () => {
    list().hidden = true;
    box().setAttribute('aria-expanded', 'false');
    box().removeAttribute('aria-activedescendant');
  };

  const option = (text, kind, act) => {
    const item = document.createElement('li');
    item.setAttribute('role', 'option');
    item.setAttribute('aria-selected', 'false');
    item.append(Object.assign(document.createElement('span'), { textContent: text }), Object.assign(document.createElement('small'), { textContent: kind }));
    item.addEventListener('mousedown', (event) => event.preventDefault()); // The box keeps the focus until the click.
    item.addEventListener('click', () => {
      asking.abort();
      close();
      box().value = '';
      schublade.toPage();
      act();
    });
    return item;
  };

  const commands = (typed) => {
    const words = typed.split(/\s+/);
    const seen = new Set();
    /** What begins with all that was typed stands above what has it, and that above what has its words. */
    const rank = (one) => { const at = one.dataset.does.toLowerCase().indexOf(typed); return at < 0 ? 2 : Math.min(at, 1); };
    return [...document.querySelectorAll('[data-does]')]
      .filter((one) => one !== box() && !one.disabled)
      .filter((one) => words.every((word) => one.dataset.does.toLowerCase().includes(word)))
      .filter((one) => !seen.has(one.dataset.does) && seen.add(one.dataset.does))
      .sort((a, b) => rank(a) - rank(b))
      .slice(0, MOST_COMMANDS)
      .map((one) => option(one.dataset.does, one.dataset.key ? schublade.keyCap(one.dataset.key) : '',
        () => (document.querySelector(`[data-key="${one.dataset.key}"]`) ?? one).click()));
  };

  /** Asks the server; an empty page if nobody wants the answer any more, or nobody answers. */
  const ask = async (address, values) => {
    let text = '';
    try {
      const answer = await fetch(address + '?' + new URLSearchParams(values), { headers: { 'HX-Request': 'true' }, signal: asking.signal });
      if (answer.ok) text = await answer.text();
    } catch {
      // As it says above.
    }
    return new DOMParser().parseFromString(text, 'text/html');
  };

  const follow = (goal) => option(goal.dataset.name, goal.querySelector('small').textContent,
    () => document.dispatchEvent(new CustomEvent('picked-place', { detail: { href: goal.dataset.href } })));

  const goals = (page, most) => [...page.querySelectorAll('[data-href]')].slice(0, most).map(follow);

  /** The folder, label or tray that is shown, as it is named in a search. */
  const here = () => document.querySelector('#cabinet [aria-current=page][data-name]:not([data-search])')?.dataset.name ?? '';

  const offer = async () => {
    const typed = box().value.trim();
    const number = ++asked;
    asking.abort();
    asking = new AbortController();
    const known = typed ? commands(typed.toLowerCase()) : [];
    if (typed) show(known);
    const [suggested, places] = await Promise.all([ask('/find/suggest', { letters: typed, place: here() }),
      typed ? ask('/places/pick', { letters: typed }) : new DOMParser().parseFromString('', 'text/html')]);
    if (number !== asked || document.activeElement !== box()) return;
    show([...known, ...goals(places, MOST_PLACES), ...goals(suggested)]);
  };

  /** What was chosen with the arrows stays chosen when more is found. */
  const show = (found) => {
    const before = selected()?.textContent;
    found.forEach((one, index) => {
      one.id = 'finds-' + index;
      one.setAttribute('aria-selected', String(one.textContent === before));
    });
    list().replaceChildren(...found);
    list().hidden = found.length === 0;
    box().setAttribute('aria-expanded', String(found.length > 0));
  };

  const move = (by) => {
    const all = options();
    const at = all.findIndex((one) => one.getAttribute('aria-selected') === 'true');
    const to = Math.max(-1, Math.min(all.length - 1, at + by));
    all.forEach((one, index) => one.setAttribute('aria-selected', String(index === to)));
    if (to < 0) box().removeAttribute('aria-activedescendant');
    else box().setAttribute('aria-activedescendant', all[to].id);
  };

  document.addEventListener('input', (event) => { if (event.target === box()) offer(); });
  document.addEventListener('focusin', (event) => { if (event.target === box() && !box().value) offer(); });
  document.addEventListener('focusout', (event) => { if (event.target === box()) close(); });
  document.addEventListener('keydown', (event) => {
    if (event.target !== box() || list().hidden) return;
    if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      event.preventDefault();
      move(event.key === 'ArrowDown' ? 1 : -1);
    } else if (event.key === 'Enter') {
      const chosen = selected();
      if (chosen) {
        event.preventDefault();
        chosen.click();
      }
    } else if (event.key === 'Escape') {
      close();
    }
  });
})();
