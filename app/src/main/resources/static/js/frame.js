/* What every page needs: the CSRF token, keys, notices and what can go wrong between browser and server. */
(() => {
  'use strict';

  const notice = () => document.getElementById('notice');

  /** What the server is told of where the user stands, so that it can show the cabinet as it was. */
  const standing = () => {
    const { here, account } = document.getElementById('cabinet').dataset;
    return account ? { here, account } : { here };
  };

  /** Says something in the filing strip. */
  const tell = (text, problem = false) => {
    const span = document.createElement('span');
    span.className = problem ? 'notice problem' : 'notice';
    span.textContent = text;
    notice()?.replaceChildren(span);
  };

  /** What the notice says is read out once, by a place that is never replaced; before an open dialog it is seen too. */
  const say = (text) => {
    const heard = document.getElementById('heard');
    heard.textContent = '';
    setTimeout(() => { heard.textContent = text(); }, 60);
  };

  const announce = () => {
    const box = notice();
    if (!document.getElementById('heard') || !box) return;
    say(() => (box.querySelector('.told') ?? box).textContent.trim());
    if (document.querySelector('dialog:modal')) {
      box.popover = 'manual';
      box.showPopover();
    }
  };
  new MutationObserver((changes) => {
    const box = notice();
    if (box && changes.some((change) => change.target === box || [...change.addedNodes].some((one) => one === box || one.contains?.(box)))) announce();
  }).observe(document.documentElement, { childList: true, subtree: true });
  document.addEventListener('close', () => notice()?.removeAttribute('popover'), { capture: true });

  // Where days begin and end is what the browser says, until the user chooses.
  addEventListener('DOMContentLoaded', () => {
    const zone = document.querySelector('[data-zone]');
    if (zone) zone.value = Intl.DateTimeFormat().resolvedOptions().timeZone ?? '';
  });

  /** By which the server tells what this window has done from what came about elsewhere. */
  const newName = () => crypto.randomUUID?.() ?? String(Math.random()).slice(2);
  let thisWindow = newName();
  // What was done on the page before is done by somebody else: this page may have been made before it was done.
  document.addEventListener('htmx:afterSwap', (event) => { if (event.detail.target === document.body) thisWindow = newName(); });

  const token = () => {
    const csrf = document.querySelector('meta[name=csrf]');
    return { 'Schublade-Window': thisWindow, ...(csrf ? { [csrf.dataset.header]: csrf.content } : {}) };
  };

  const tellStatus = (status) => {
    if (status === 404) tell('That is gone; it may have been moved or deleted elsewhere.', true);
    else if (status >= 400 && ![401, 403, 422].includes(status)) tell('That did not work on the server. Please try again.', true);
  };

  // What takes a while says so. In the capture phase: before htmx takes the form over.
  document.addEventListener('submit', (event) => {
    const busy = event.target.dataset.busy;
    if (busy) tell(`${busy}…`);
  }, { capture: true });

  /**
   * What has been sent and not been answered yet, kept for this window: if it turns out that the session has ended, by the
   * answer to this or to anything else, it is done after the same person is logged in again; likewise if the page is left
   * while the database is away.
   */
  const late = {
    name: 'schublade-late',
    over: 'schublade-over',
    hour: 3600000,
    count: 0,
    person: () => document.querySelector('[data-person]')?.dataset.person,
    all() {
      try {
        return JSON.parse(sessionStorage.getItem(this.name) ?? '[]');
      } catch {
        return [];
      }
    },
    store(all) {
      sessionStorage.setItem(this.name, JSON.stringify(all));
    },
    /** Returns what to forget it by. */
    keep(address, sent) {
      const key = `${Date.now()}-${this.count++}`;
      this.store([...this.all(), { key, address, fields: [...sent], person: this.person(), at: Date.now() }]);
      return key;
    },
    forget(key) {
      this.store(this.all().filter((one) => one.key !== key));
    },
    /** What is left is done by the next page of this person. */
    keepOver() {
      sessionStorage.setItem(this.over, 'yes');
    },
    /** Does now what could not be done then, in its order; what was left by leaving a page in the usual way is not done again. */
    async catchUp() {
      const person = this.person();
      if (!person) return;
      const all = sessionStorage.getItem(this.over) ? this.all() : [];
      sessionStorage.removeItem(this.over);
      this.store([]);
      const mine = all.filter((one) => one.person === person && Date.now() - one.at < this.hour);
      for (const one of mine) {
        const values = {};
        one.fields.forEach(([name, value]) => (values[name] ??= []).push(value));
        await send(one.address, values);
      }
      if (mine.length > 0) document.dispatchEvent(new CustomEvent('mail-changed', { detail: 'done' }));
    },
  };

  // What ends by itself, such as a trial run, says so once.
  let saidLast = '';
  document.addEventListener('htmx:afterSettle', () => {
    const told = document.querySelector('[data-tells]')?.textContent.trim() ?? '';
    if (told && told !== saidLast) say(() => told);
    saidLast = told;
  });

  const tellBroken = () => tell('The answer broke off, so it is not certain whether that was done. The page shows how it is now.', true);

  const tellSilence = () => tell('Schublade is not responding. Your last action was not carried out; please try again in a moment.', true);

  /** While the database is away, the server says that it has begun nothing: the same is asked for again, in its turn. */
  const fetchUntilBegun = async (address, options, still) => {
    for (;;) {
      const answer = await fetch(address, options);
      if (!answer.headers.has('Schublade-Not-Begun') || !still()) return answer;
      late.keepOver();
      tell(await answer.text(), true);
      await new Promise((resolve) => setTimeout(resolve, 1500));
    }
  };

  /**
   * Asks the server. What it answers is put into the page, if it is still wanted then. Resolves to
   * whether all went well; still: whether it is to be asked for again, shows: whether the answer has a place; quiet: that nobody answers is said elsewhere. Not by htmx's own requests: of those it drops some when they come fast; none of these may be.
   */
  const ask = async (address, { method = 'GET', fields = null, into = null, still = () => true, shows = still, onAnswer = () => {}, quiet = false } = {}) => {
    const headers = { 'HX-Request': 'true', ...token() };
    if (into) headers['HX-Target'] = into;
    let answer;
    try {
      answer = await fetchUntilBegun(address, { method, body: fields, headers, keepalive: Boolean(fields) && String(fields).length < 60000 }, still);
    } catch {
      onAnswer(0);
      if (!quiet) tellSilence();
      return false;
    }
    onAnswer(answer.status);
    let text;
    try {
      text = await answer.text();
    } catch {
      if (fields) {
        tellBroken();
        document.dispatchEvent(new CustomEvent('mail-changed', { detail: 'done' }));
      }
      return false;
    }
    if ([401, 403].includes(answer.status)) {
      late.keepOver();
      if (await schublade.logInAgain()) return ask(address, { method, fields, into, still, onAnswer, quiet });
    }
    if (answer.headers.has('HX-Redirect')) location.assign(answer.headers.get('HX-Redirect'));
    else if (answer.headers.has('HX-Refresh')) location.reload();
    else if (shows() && (answer.ok || answer.status === 422)) put(text, into && answer.ok ? into : null);
    if (answer.status === 503) tell(text, true);
    else tellStatus(answer.status);
    return answer.ok;
  };

  /** Fetches a part of the page that may be wanted soon. Null if it is not to be had, of which nothing is said yet. */
  const fetchAhead = async (address, into) => {
    try {
      const answer = await fetch(address, { headers: { 'HX-Request': 'true', 'HX-Target': into } });
      return answer.ok ? await answer.text() : null;
    } catch {
      return null;
    }
  };

  /** Asks for data. Null if there is none to be had, of which nothing is said. */
  const fetchJson = async (address) => {
    try {
      const answer = await fetch(address, { headers: { 'HX-Request': 'true' } });
      return answer.ok ? await answer.json() : null;
    } catch {
      return null;
    }
  };

  /** Puts parts into the page: one in the place of the element with this id, the others where they belong by themselves. */
  const put = (text, into) => {
    const target = into ? document.getElementById(into) : document.body;
    if (target) htmx.swap(target, text, { swapStyle: into ? 'outerHTML' : 'none', swapDelay: 0, settleDelay: 0 });
  };

  const fields = (values) => {
    const all = new URLSearchParams();
    Object.entries({ ...standing(), ...values }).forEach(([name, value]) => [value].flat().forEach((one) => all.append(name, one)));
    return all;
  };

  const dropped = () => new Promise((resolve) => document.addEventListener('dragend', resolve, { once: true }));

  /** The cabinet anew, unless the user stands elsewhere by then; while something is dragged, after it is dropped. */
  const refreshCabinet = async () => {
    const isDragging = () => document.body.classList.contains('dragging');
    const { here } = standing();
    let done = false;
    if (!isDragging()) done = await ask('/cabinet?' + fields({}), { still: () => !isDragging() && standing().here === here });
    return isDragging() ? dropped().then(refreshCabinet) : done;
  };

  // A page that is being left breaks off what it has asked for: that nobody answered is not known then.
  const LEAVING_MILLIS = 10000;
  let left = -LEAVING_MILLIS;
  addEventListener('beforeunload', () => { left = performance.now(); });
  const isUnanswered = (status) => [401, 403].includes(status) || (status === 0 && performance.now() - left < LEAVING_MILLIS);

  /** Deeds are sent in the order in which they were done. */
  let last = Promise.resolve();
  const send = (address, values) => {
    const sent = fields(values);
    const key = late.keep(address, sent);
    const mine = last.then(async () => {
      const done = await ask(address, { method: 'POST', fields: sent, onAnswer: (status) => isUnanswered(status) || late.forget(key) });
      // The cabinet of the answer is that of the place where the deed was done.
      if (sent.get('here') !== standing().here) refreshCabinet();
      return done;
    });
    // Whatever becomes of one of them, the next one is sent.
    last = mine.catch(() => false);
    return last;
  };

  /** Asks before what nothing takes back. */
  const isSure = (question, { note, button } = {}) => new Promise((resolve) => {
    const dialog = document.getElementById('sure');
    document.getElementById('sure-title').textContent = question;
    const words = [dialog.querySelector('p'), dialog.querySelector('.go')];
    [note, button].forEach((text, at) => { words[at].textContent = text ?? words[at].dataset.usual; });
    dialog.returnValue = 'no';
    dialog.addEventListener('close', () => resolve(dialog.returnValue === 'yes'), { once: true });
    dialog.showModal();
  });

  addEventListener('load', () => late.catchUp());

  window.schublade = { keyCap: (usual) => shown(chosen(usual)), windowName: () => thisWindow, say: (text) => say(() => text), ask, fetchAhead, fetchJson, isSure, put, refreshCabinet, send, tell, isCovered: () => isCovered(), isTyping: (element) => isTyping(element), go: (address) => go(address), keepDesk: () => desk.keep(), deskAddress: () => desk.address(), toDesk: () => go(desk.address()) };

  // What shows the state of the mail is fetched anew when that changes: an element says from where.
  document.addEventListener('mail-changed', () => {
    for (const stale of document.querySelectorAll('[data-fresh]')) ask(stale.dataset.fresh, { into: stale.id, still: () => stale.isConnected });
  });

  document.addEventListener('change', (event) => {
    const form = event.target.form;
    if (form && 'sendsItself' in form.dataset) form.requestSubmit();
  });

  document.addEventListener('htmx:configRequest', (event) => Object.assign(event.detail.headers, token()));
  document.addEventListener('htmx:sendError', tellSilence);
  document.addEventListener('htmx:responseError', (event) => tellStatus(event.detail.xhr.status));

  /* Keys. An element says which key it answers to: data-key. What is shown is therefore what works. */
  const isTyping = (element) => element.matches('input:not([type=checkbox]), textarea, select, [contenteditable]') && !element.readOnly;

  /** Whether keys are for something that stands before the page. */
  const isCovered = () => Boolean(document.querySelector('dialog:modal, #place-menu:popover-open'));

  /** What was typed; nothing while a text is being composed, and with Ctrl or Alt. */
  const typed = (event) => {
    const isOther = event.ctrlKey || event.metaKey || event.altKey || event.isComposing || event.key === 'Process';
    return isOther || event.key === 'Dead' ? null : event.key.length === 1 ? event.key.toLowerCase() : event.key;
  };

  /** A digit with Shift, by where it lies on the keyboard: for signs that mean nothing else here, which they do in some countries. */
  const withShift = ({ code, shiftKey }) => (shiftKey && /^Digit\d$/.test(code) ? 'Shift+' + code.slice(-1) : null);

  /** A letter with Shift, for what answers to it; elsewhere Shift changes nothing. */
  const shiftedLetter = ({ key, shiftKey }) => (shiftKey && /^[a-z]$/i.test(key) ? 'Shift+' + key.toLowerCase() : null);

  /** Keys that the user chose, by the usual ones. */
  const ownKeys = () => Object.fromEntries((document.querySelector('.app')?.dataset.keys ?? '').split(' ').filter(Boolean)
    .map((pair) => { const at = pair.indexOf('=', 1); return [pair.slice(0, at), pair.slice(at + 1)]; }));

  /** The key that does what this one usually does; none if it was chosen for something else. */
  const chosen = (usual) => {
    const own = ownKeys();
    return own[usual] ?? (Object.values(own).includes(usual) ? '' : usual);
  };

  const shown = (key) => (key.length === 1 ? key.toUpperCase() : key.replace(/^Shift\+(.)$/, (all, one) => '⇧' + one.toUpperCase()));

  /** What is written on the keys is what works. */
  const writeKeys = () => {
    if (!document.querySelector('.app')?.dataset.keys) return;
    document.querySelectorAll('[data-key] > kbd').forEach((cap) => { cap.textContent = shown(chosen(cap.parentElement.dataset.key)); });
  };
  document.addEventListener('htmx:afterSettle', writeKeys);
  writeKeys();

  /** Waits for the key that is to do it from now on. */
  const changeKey = (cap, usual) => {
    cap.textContent = 'press…';
    const take = async (event) => {
      event.preventDefault();
      event.stopPropagation();
      if (['Shift', 'Control', 'Alt', 'Meta'].includes(event.key)) return;
      document.removeEventListener('keydown', take, true);
      const key = withShift(event) ?? shiftedLetter(event) ?? typed(event);
      if (key && event.key !== 'Escape' && await ask('/habits/keys', { method: 'POST', fields: fields({ usual, chosen: key }) })) location.reload();
      else cap.textContent = shown(chosen(usual));
    };
    document.addEventListener('keydown', take, true);
  };

  const press = (element) => {
    if (element.matches('input')) {
      element.focus();
      element.select();
    } else if (element.matches('a[href]:not([download], [hx-boost=false], [hx-boost=false] *)')) {
      go(element.href); // The link itself may come anew before the answer does, and would be forgotten.
    } else {
      element.click();
    }
  };

  /** Follows a link that the page does not show. */
  const go = (address) => {
    const link = document.createElement('a');
    link.href = address;
    document.querySelector('.app').append(link);
    htmx.process(link); // Boosted like every link of the page.
    link.click();
  };

  /** Of two pages that one goes to, the later one counts: an answer that is still on its way takes nobody away from there. */
  let onItsWay = null;
  document.addEventListener('htmx:beforeSend', ({ detail }) => {
    if (!detail.boosted) return;
    onItsWay?.abort();
    onItsWay = detail.requestConfig.verb === 'get' ? detail.xhr : null;
  });
  document.addEventListener('htmx:afterRequest', ({ detail }) => { if (detail.xhr === onItsWay) onItsWay = null; });

  /** The list that was left last, as it was. */
  const desk = {
    name: 'schublade-desk',
    keep: () => sessionStorage.setItem(desk.name, location.pathname + location.search),
    address: () => sessionStorage.getItem(desk.name) ?? '/mail/inbox',
  };

  /** One level back: out of a field to its page, out of a page to the list. Returns whether there was one. */
  const stepBack = (element) => {
    const rows = document.getElementById('rows');
    if (isTyping(element)) {
      schublade.toPage();
      return true;
    }
    if (rows || !document.querySelector('.app')) return false;
    const link = document.querySelector('main .back[href]');
    if (link?.checkVisibility()) link.click();
    else go(desk.address());
    return true;
  };

  document.addEventListener('keydown', (event) => {
    const key = typed(event);
    if (!key || event.defaultPrevented || isCovered()) return;
    if (event.key === 'Escape' && !event.repeat && stepBack(event.target)) {
      event.preventDefault();
      return;
    }
    if (isTyping(event.target)) return;
    const all = [...document.querySelectorAll('[data-key]')].filter((one) => !one.disabled);
    const answering = (name) => name && all.find((one) => chosen(one.dataset.key) === name);
    const element = answering(shiftedLetter(event)) ?? answering(key) ?? answering(withShift(event));
    if (!element) return;
    event.preventDefault();
    // A key that is held down goes on through the list, and does nothing else again and again.
    if (!event.repeat || /^Arrow/.test(key)) press(element);
  });

  const listKeys = () => {
    const list = document.querySelector('#keys dl');
    list.replaceChildren();
    const more = document.querySelectorAll('[data-more-keys]');
    const all = [
      ...[...more].flatMap((one) => one.dataset.moreKeys.split(';').map((pair) => pair.split('='))),
      ...[...document.querySelectorAll('[data-key]')].map((one) => [chosen(one.dataset.key), one.dataset.does, one.dataset.key]),
    ];
    for (const [key, does, usual] of all) {
      const term = document.createElement('dt');
      const cap = document.createElement('kbd');
      cap.textContent = usual ? shown(key) : key.trim();
      if (usual) {
        const change = Object.assign(document.createElement('button'), { type: 'button', className: 'key-change', title: 'Change this key' });
        change.setAttribute('aria-label', `${cap.textContent}, change the key of: ${does}`);
        change.append(cap);
        change.addEventListener('click', () => changeKey(cap, usual));
        term.append(change);
      }
      if (!usual) term.append(cap);
      const words = document.createElement('dd');
      words.textContent = does;
      list.append(term, words);
    }
  };

  /** In another account the same list stays narrowed as it is. */
  document.addEventListener('htmx:configRequest', (event) => {
    const chip = event.target.closest?.('a.acct');
    if (!chip) return;
    const to = new URL(chip.href);
    if (to.pathname !== location.pathname) return;
    const now = new URLSearchParams(location.search);
    ['account', 'open', 'after', 'under', 'rows'].forEach((name) => now.delete(name));
    now.forEach((value, name) => to.searchParams.set(name, value));
    event.detail.path = to.pathname + to.search;
  });

  /** What is asked before something is done; from the server where it has figures. Null if that does not answer. */
  const sureQuestion = async ({ sure = '', asksFirst }) => {
    if (!asksFirst) return sure;
    try {
      const answer = await fetch(asksFirst);
      if (answer.ok && answer.headers.get('Content-Type')?.startsWith('text/plain')) return await answer.text();
    } catch {
      // It is told below.
    }
    tellSilence();
    return null;
  };

  document.addEventListener('click', async (event) => {
    const folder = event.target.closest('[data-unfolds]');
    if (folder) {
      const part = document.getElementById(folder.getAttribute('aria-controls'));
      part.hidden = !part.hidden;
      folder.setAttribute('aria-expanded', String(!part.hidden));
    }
    const poster = event.target.closest('[data-posts]');
    if (poster) {
      event.preventDefault();
      const question = await sureQuestion(poster.dataset);
      if (question === null || (question && !(await isSure(question)))) return;
      if (await send(poster.dataset.posts, { page: location.pathname + location.search })) document.dispatchEvent(new CustomEvent('mail-changed', { detail: 'done' }));
      if (poster.closest('#acts')) ask('/record/acts', { into: 'acts' });
      return;
    }
    const menu = document.querySelector('details.menu[open]');
    const opener = event.target.closest('[data-opens]');
    if (menu && (opener || !menu.contains(event.target))) menu.open = false;
    if (opener) {
      if (opener.dataset.opens === 'keys') listKeys();
      else await ask('/record/acts', { into: 'acts' });
      document.getElementById(opener.dataset.opens).showModal();
    }
  });
})();
