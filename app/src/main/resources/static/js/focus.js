/* Where the focus stands when what had it is gone: on what took its place, else on its neighbour, else on the heading of the page. */
(() => {
  'use strict';

  const FOCUSABLE = 'a[href], button:not(:disabled), input:not([type=hidden], :disabled), select, textarea, summary, [tabindex]';
  let stood = null;

  /** By what an element is known again in a page that came anew. */
  const sign = (element) => element.dataset.posts?.replace(/[?&]on=\w+/, '') ?? element.dataset.key ?? element.getAttribute('name') ?? element.getAttribute('href')
    ?? element.getAttribute('aria-label') ?? element.textContent.trim();

  const all = (region) => [...region.querySelectorAll(FOCUSABLE)].filter((one) => one.checkVisibility());

  document.addEventListener('focusin', ({ target }) => {
    if (target.closest('dialog, [popover]')) return; // When that closes, what had the focus before has it again.
    const regions = [];
    for (let region = target.parentElement?.closest('[id], main'); region; region = region.parentElement?.closest('[id], main')) {
      regions.push({ id: region.id, place: regions.length ? -1 : all(region).indexOf(target) });
    }
    stood = { element: target, id: target.id, sign: sign(target), regions, page: location.pathname };
  });

  const successor = () => {
    if (stood.element.matches('main h1')) return onHeading();
    if (stood.id) {
      const same = document.getElementById(stood.id);
      if (same?.checkVisibility()) return same;
    }
    const sheet = document.getElementById('sheet');
    if (stood.id === 'rows' && sheet?.checkVisibility()) return sheet; // On a small screen the message is in its place.
    for (const { id, place } of stood.regions) {
      const region = id ? document.getElementById(id) : document.querySelector('main');
      if (!region?.checkVisibility()) continue;
      const now = all(region);
      const neighbour = region.matches('.sheet') ? region : place < 0 ? null : now[Math.min(place, now.length - 1)];
      const found = now.find((one) => sign(one) === stood.sign) ?? neighbour;
      if (found) return found;
    }
    return null;
  };

  const onHeading = () => {
    const heading = document.querySelector('main h1');
    if (heading && !heading.hasAttribute('tabindex')) heading.tabIndex = -1;
    return heading;
  };

  const settle = () => {
    const lost = !document.activeElement || document.activeElement === document.body;
    if (!lost || !stood || document.querySelector('dialog:modal')) return;
    const gone = !stood.element.isConnected || !stood.element.checkVisibility();
    if (!gone) {
      stood.element.focus({ preventScroll: true });
      return;
    }
    const next = stood.page === location.pathname ? successor() : null;
    (next ?? document.getElementById('rows') ?? onHeading())?.focus({ preventScroll: !next });
  };

  /** The parts of the page, in their order; each as what has the focus there first. */
  const parts = () => [
    document.getElementById('rows') ?? onHeading(),
    document.getElementById('sheet'),
    document.querySelector('.strip :is(button, a):not([tabindex="-1"])'),
    document.getElementById('find'),
    document.querySelector('#cabinet [aria-current]') ?? document.querySelector('#cabinet a'),
  ].filter((one) => one?.checkVisibility());

  const around = (element) => element.closest('#rows, .sheet, .strip, .top, .cab, main') ?? element;

  document.addEventListener('keydown', (event) => {
    if (event.key !== 'F6' || event.ctrlKey || event.altKey || schublade.isCovered()) return;
    event.preventDefault();
    const all = parts();
    const at = all.findIndex((one) => around(one).contains(document.activeElement));
    all[(at + (event.shiftKey ? -1 : 1) + all.length + (at < 0 && event.shiftKey ? 1 : 0)) % all.length].focus();
  });

  /* In a narrow window the cabinet is in the place of the page, until something in it is chosen. */
  const opener = () => document.querySelector('.to-cabinet');
  const isInCabinet = () => opener()?.getAttribute('aria-expanded') === 'true';
  const showCabinet = (shown) => {
    document.querySelector('.app').classList.toggle('in-cabinet', shown);
    opener().setAttribute('aria-expanded', String(shown));
    if (shown) parts().at(-1).focus();
    else opener().focus();
  };

  document.addEventListener('keydown', (event) => {
    if (event.key !== 'Escape' || !isInCabinet() || event.target.matches('input') || schublade.isCovered()) return;
    event.stopImmediatePropagation();
    showCabinet(false);
  }, { capture: true });

  document.addEventListener('click', (event) => {
    if (event.target.closest('.to-cabinet')) showCabinet(!isInCabinet());
    if (!event.target.closest('.skip')) return;
    event.preventDefault();
    schublade.toPage();
  });

  /** The focus is on what the page is about, where letters are keys. */
  schublade.toPage = () => parts()[0]?.focus({ preventScroll: true });

  document.addEventListener('htmx:afterSettle', settle);
  document.addEventListener('close', () => setTimeout(settle), { capture: true });
})();
