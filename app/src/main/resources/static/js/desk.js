/* The desk: opening messages, and what is done to those that are selected. */
document.addEventListener('alpine:init', () => {
  'use strict';

  const QUICK_MILLIS = 80;
  const COUNT_MILLIS = 300;
  const MOVES = ['archive', 'delete', 'file', 'for_good'];
  const MARKS = ['flag', 'read'];
  /** More messages than that are asked about before a routine runs. */
  const MANY = 10;
  /** How many messages are fetched before their key is pressed. */
  const AHEAD = 3;
  /** More places than any list has. */
  const FAR = 1e9;
  /** A message is read when one goes on to another (Habits.WHEN_LEFT). */
  const WHEN_LEFT = '-1';

  /** Flagged plainly, until the row comes anew and says as what; or not flagged. */
  const showFlag = (row, on, own = '') => {
    row.classList.toggle('flagged', on);
    row.dataset.flag = on ? own : '';
    Object.assign(row.querySelector('.ribbon'), { className: 'ribbon', title: 'flagged' });
  };

  /** How long it took from a key to the next message on the screen: "next-message" among the browser's measures. */
  const measure = (start) => requestAnimationFrame(() => setTimeout(() => performance.measure('next-message', { start, end: performance.now() })));

  Alpine.data('desk', () => ({
    told: '',
    noMore: true,
    list: null,
    moves: false,
    opening: 0,
    pending: 0,
    stale: false,
    glance: null,
    pressed: 0,
    /** Messages that were fetched before they were opened, by their ids. */
    ahead: new Map(),
    /** Where one is going in the list. */
    way: 1,
    onTheWay: 0,
    travel: Promise.resolve(),
    /** How many deeds have been done: each may change what the strip offers for other messages. */
    deeds: 0,
    listeners: new AbortController(),

    init() {
      this.list = new MessageList(this.$root.dataset.address);
      this.told = this.figures();
      this.moves = this.$root.dataset.leaves === 'true';
      this.comeBack();
      const on = (target, name, act, capture = false) => target.addEventListener(name, act, { signal: this.listeners.signal, capture });
      on(document, 'keydown', (event) => { this.pressed = event.timeStamp; }, true);
      on(document, 'pointerdown', () => { this.pressed = 0; }, true);
      on(this.$root, 'click', (event) => this.click(event));
      on(this.$root, 'dblclick', (event) => { if (event.target.closest('.row') && !event.target.closest('.fold')) this.openInFull(); });
      on(window, 'popstate', (event) => {
        if (!this.$root.classList.contains('full')) return;
        event.stopImmediatePropagation(); // The page is the same; only the message in full is left.
        this.closeFull();
      }, true);
      on(document, 'click', (event) => this.clickOnDeed(event));
      on(document, 'keydown', (event) => this.key(event));
      on(document, 'mail-changed', async (event) => {
        if (event.detail === 'own') {
          this.countSoon();
          return;
        }
        this.ahead.clear();
        const hasOpened = await this.refresh();
        if (hasOpened || event.detail !== 'done' || !this.list.current || schublade.isWriting()) this.fetchNext();
        else if (this.list.row(this.list.current)) this.open(this.list.current);
        else schublade.ask('/message/none', { into: 'sheet', still: () => this.$root.isConnected });
      });
      on(document, 'select-row', (event) => this.pick(event.detail, { quiet: true }));
      on(document, 'open-row', (event) => this.pick(event.detail, {}));
      on(document, 'list-counted', () => this.selectionChanged());
      on(document, 'ask-for', (event) => this.choose(event.detail));
      on(document, 'picked-folder', (event) => this.act('file', event.detail));
      on(document, 'picked-copy', (event) => this.act('copy', event.detail));
      on(document, 'picked-carry', (event) => this.act('carry', event.detail));
      on(document, 'picked-label', async (event) => {
        await this.act('label', event.detail);
        document.dispatchEvent(new CustomEvent('labelled', { detail: { on: this.labelsOn() } }));
      });
      on(document, 'picked-routine', (event) => this.routine(event.detail));
      on(document, 'picked-tray', (event) => this.act('tray', event.detail));
      on(document, 'picked-category', (event) => this.categorise(event.detail.place));
      on(document, 'picked-flag', (event) => this.flagAs(event.detail.place));
      on(document, 'picked-due', (event) => this.act('due', event.detail));
      on(document, 'picked-routine-day', (event) => this.routine({ ...this.asking, due: event.detail.due }));
      on(document, 'picked-tickler', (event) => this.act('tickler', event.detail));
      on(document, 'answer-closed', (event) => this.answered(event.detail));
      on(document, 'htmx:afterSettle', (event) => {
        if (event.target.closest?.('#rows')) this.list.show();
      });
      on(document, 'htmx:beforeSwap', (event) => { if (event.detail.target === document.body) this.leave(); });
      on(window, 'pagehide', () => this.leave());
      document.getElementById('rows').focus({ preventScroll: true });
      this.list.count();
      this.fetchNext();
      on(this.list.scroll, 'scroll', () => {
        if (this.list.scroll.scrollTop < 20) document.getElementById('news').hidden = true;
        this.filling ??= requestAnimationFrame(() => {
          this.filling = null;
          this.list.fill();
        });
      });
    },

    /** To the message that the address names, and to the part of the list that was shown with it. */
    async comeBack() {
      const open = document.getElementById('sheet').dataset.message;
      if (!open) return;
      await this.list.comeBackTo(open);
      if (!this.$root.isConnected || this.list.current || !this.list.row(open)) return;
      this.list.select(open);
      this.glanceAt(open);
    },

    leave() {
      schublade.keepDesk();
      this.list.keepPlace();
      this.left();
    },

    /** After what was done here the page is as it should be, but for its figures. */
    countSoon() {
      clearTimeout(this.counting);
      this.counting = setTimeout(() => {
        if (!this.$root.isConnected) return;
        if (this.list.rows.length === 0) this.refresh();
        else this.list.count();
      }, COUNT_MILLIS);
    },

    destroy() {
      clearTimeout(this.glance);
      clearTimeout(this.counting);
      this.listeners.abort();
    },

    figures() { return document.getElementById('figures').dataset.figures; },

    selectionChanged() {
      const { everything, size } = this.list;
      const count = everything ? size : this.list.selected.size;
      this.told = count > 1 ? `${count.toLocaleString('en')} selected` : this.figures();
      const more = !everything && this.list.selected.size > 1 && this.list.selected.size === this.list.rows.length && size > count;
      this.noMore = !more;
      document.getElementById('select-all').textContent = `Select all ${size.toLocaleString('en')}`;
    },

    /** All that there are, not only those on the screen. */
    everything() {
      this.list.selectEverything();
      this.selectionChanged();
      this.list.box.focus({ preventScroll: true });
    },

    click(event) {
      const fold = event.target.closest('.fold');
      const row = event.target.closest('.row');
      if (fold) {
        event.preventDefault();
        this.list.toggleFold(row);
        return;
      }
      if (row) {
        event.preventDefault();
        this.pick(row.dataset.id, { range: event.shiftKey, toggle: event.ctrlKey || event.metaKey });
        this.list.box.focus({ preventScroll: true });
        return;
      }
    },

    /** A button of the sheet or of the filing strip. */
    clickOnDeed(event) {
      const button = event.target.closest('[data-deed], [data-into], [data-asks]');
      if (!button) return;
      const { deed, into, asks, place } = button.dataset;
      if (asks === 'place') return;
      if (into) this.act('file', { place: into });
      else if (asks) this.choose(asks);
      else if (deed === 'category') this.categorise(place);
      else if (deed === 'routine') this.routine(button.dataset);
      else this.act(deed);
    },

    /** On all of them, or off if all have it; without a place, none is left. */
    categorise(place) {
      this.act('category', place ? { place, on: !this.list.allHave(place) } : { place: '' });
    },

    /** As one of the user's own flags; all of them so flagged already, or without one, none is left. */
    flagAs(place) {
      const on = Boolean(place) && !this.list.chosen.every((row) => row.dataset.flag === place);
      // The next press may come before the rows do.
      this.list.chosen.forEach((row) => showFlag(row, on, place));
      this.act(...(on ? ['flag_as', { place }] : ['unflag']));
    },

    choose(kind) {
      if (this.list.selected.size === 0) {
        schublade.tell('Select a message first: with the arrow keys, or a click.');
        return;
      }
      document.dispatchEvent(new CustomEvent('open-picker', { detail: { kind, on: kind === 'label' ? this.labelsOn() : this.list.current } }));
    },

    /** The labels that all selected messages have, and which message is open. */
    labelsOn() { return [...this.list.sharedLabels(), `message/${this.list.current}`].join(' '); },

    key(event) {
      const inside = event.target === document.body || event.target === this.list.box || event.target.closest('.row, .sheet');
      if (!inside || schublade.isTyping(event.target) || event.altKey || event.isComposing || schublade.isCovered()) return;
      if ((event.ctrlKey || event.metaKey) && event.key === 'a') {
        event.preventDefault();
        if (event.target.closest('.sheet')) {
          this.selectText();
          return;
        }
        if (this.list.isAllSelected) this.list.selectEverything();
        else this.list.selectAll();
        this.selectionChanged();
        return;
      }
      if (['ArrowRight', 'ArrowLeft'].includes(event.key) && !event.ctrlKey && !event.metaKey) {
        const row = this.list.row(this.list.current);
        if (row) this.list.toggleFold(row, event.key === 'ArrowRight');
        return;
      }
      if (event.key === 'Enter' && !event.ctrlKey && !event.metaKey && !event.shiftKey && this.list.current && !event.target.closest('.sheet :is(a, button, summary)')) {
        event.preventDefault();
        this.openInFull();
        return;
      }
      const out = event.key === 'Escape' && document.querySelector('.inside-of button');
      if (out) {
        out.click(); // Of a message in a message.
        return;
      }
      if (event.key === 'Escape' && this.$root.classList.contains('full')) {
        history.back();
        return;
      }
      if (event.key === 'Escape' && !this.list.scroll.checkVisibility()) {
        this.closeSheet();
        return;
      }
      if (event.key === ' ' && !event.ctrlKey && !event.metaKey) {
        event.preventDefault();
        this.readOn();
        return;
      }
      const screenful = Math.max(1, Math.floor(this.list.scroll.clientHeight / this.list.rowHeight) - 1);
      const by = { ArrowDown: 1, ArrowUp: -1, PageDown: screenful, PageUp: -screenful, Home: -FAR, End: FAR }[event.key];
      if (!by || event.ctrlKey || event.metaKey || (event.target.closest('.text') && Math.abs(by) > 1)) return;
      event.preventDefault();
      this.go(by, event.shiftKey);
    },

    /** Through the list by so many places; to its end if there are not as many. Each key goes on from where the one before led. */
    go(by, range) {
      this.way = Math.sign(by);
      const near = this.list.neighbour(by);
      const isNear = Math.abs(by) !== FAR && near !== this.list.neighbour(this.way * FAR);
      if (isNear && this.onTheWay === 0) {
        this.pick(near.dataset.id, { range });
        return;
      }
      this.onTheWay++;
      this.travel = this.travel.then(() => this.goFar(by, range)).catch(() => {}).finally(() => { this.onTheWay--; });
    },

    async goFar(by, range) {
      const isEnd = Math.abs(by) === FAR;
      const row = isEnd && !range ? await this.list.end(by > 0) : isEnd ? this.list.neighbour(by) : await this.list.reach(by);
      if (row && this.$root.isConnected) this.pick(row.dataset.id, { range });
    },

    /** The text of the message, to be copied. */
    selectText() {
      const text = document.querySelector('#sheet .text');
      if (text) getSelection().selectAllChildren(text);
    },

    /** The next screenful of the message; at its end, the next message. */
    readOn() {
      const sheet = document.getElementById('sheet');
      const before = sheet.scrollTop;
      if (sheet.dataset.message) sheet.scrollBy({ top: sheet.clientHeight * 0.85 });
      if (sheet.scrollTop > before) return;
      const row = this.list.neighbour(1);
      if (row && row.dataset.id !== this.list.current) this.pick(row.dataset.id, {});
    },

    /** Selects a row and, unless more are being gathered, opens it. */
    pick(id, how) {
      this.list.select(id, how);
      this.selectionChanged();
      if (!how.range && !how.toggle && !how.quiet) this.open(id);
    },

    /** Shows a message; when what was done before is done, the strip offers what follows from that. */
    async open(id, before = null) {
      const { pressed } = this;
      this.pressed = 0;
      clearTimeout(this.glance);
      schublade.keepDraft();
      this.left(id);
      this.$root.classList.add('reading');
      const early = this.ahead.get(id);
      this.fetchNext();
      // When going through the list quickly, only the message that one stops at is fetched.
      if (this.opening && !early) await new Promise((resolve) => setTimeout(resolve, QUICK_MILLIS));
      if (this.list.current !== id) return;
      const wanted = () => this.$root.isConnected && this.list.current === id;
      const fetched = await early?.part;
      if (fetched && wanted()) {
        schublade.put(fetched, 'sheet');
      } else {
        this.opening++;
        await schublade.ask('/message/' + id, { into: 'sheet', still: wanted });
        this.opening--;
      }
      if (!wanted()) return;
      if (pressed) measure(pressed);
      this.showInAddress(id);
      this.glanceAt(id);
      if (before || early?.at < this.deeds) {
        await before;
        schublade.ask('/message/' + id, { into: 'slots', still: wanted });
      }
    },

    showInAddress(id) {
      const address = new URL(location.href);
      address.searchParams.set('open', id);
      history.replaceState(history.state, '', address);
    },

    /** The messages that are likely to be read next, so that they are there when their key is pressed. */
    fetchNext() {
      const rows = this.list.rows;
      const at = rows.findIndex((row) => row.dataset.id === this.list.current);
      const wanted = [];
      /** The current one and the one before stay, if they are there: one may turn round. */
      const staying = [0, -1].map((by) => rows[at + by * this.way]?.dataset.id);
      const most = at < 0 ? 1 : AHEAD; // Before one has begun, the first alone.
      for (let by = 1; by <= most; by++) {
        const id = rows[at < 0 ? 0 : at + by * this.way]?.dataset.id;
        if (id) wanted.push(id);
      }
      [...this.ahead.keys()].filter((id) => !wanted.includes(id) && !staying.includes(id)).forEach((id) => this.ahead.delete(id));
      wanted.filter((id) => !this.ahead.has(id)).forEach((id) => this.ahead.set(id, { part: schublade.fetchAhead('/message/' + id, 'sheet'), at: this.deeds }));
    },

    /** A message that stays open for a moment has been read. */
    glanceAt(id) {
      clearTimeout(this.glance);
      if (!this.list.row(id)?.classList.contains('new')) return;
      const { readAfter } = this.$root.dataset;
      if (readAfter === undefined) return; // Only by its key.
      if (readAfter === WHEN_LEFT) this.leaving = id;
      else this.glance = setTimeout(() => this.isRead(id), Number(readAfter) * 1000);
    },

    isRead(id) {
      this.list.row(id)?.classList.remove('new');
      this.post('glance', { ids: [id] }, {});
    },

    /** Another message is open, or none. */
    left(now = null) {
      const id = this.leaving;
      if (!id || id === now) return;
      this.leaving = null;
      this.isRead(id);
    },

    toTop() {
      this.list.scroll.scrollTo({ top: 0 });
      this.list.box.focus({ preventScroll: true });
    },

    /** The message alone, in the place of the list; Back or Escape shows the list again, where it was. */
    openInFull() {
      if (this.$root.classList.contains('full')) return;
      this.scrolled = this.list.scroll.scrollTop;
      this.$root.classList.add('full');
      history.pushState({ schublade: 'full' }, '', location.href);
      document.getElementById('sheet').focus({ preventScroll: true });
    },

    closeFull() {
      this.$root.classList.remove('full');
      if (this.list.current) this.showInAddress(this.list.current);
      this.list.scroll.scrollTop = this.scrolled;
      this.list.row(this.list.current)?.scrollIntoView({ block: 'nearest' });
      this.list.box.focus({ preventScroll: true });
    },

    closeSheet() {
      if (this.$root.classList.contains('full')) {
        history.back();
        return;
      }
      this.left();
      this.$root.classList.remove('reading');
      this.list.box.focus({ preventScroll: true });
    },

    async act(deed, extra = {}, goesAway = MOVES.includes(deed)) {
      const rows = this.list.chosen;
      if (rows.length === 0) {
        schublade.tell('Select a message first: with the arrow keys, or a click.');
        return;
      }
      clearTimeout(this.glance);
      const meant = this.list.meant();
      if (deed === 'for_good' && !(await schublade.isSure(this.forGood(rows, meant)))) return;
      if (goesAway || (deed === 'tickler' && extra.due && this.moves)) {
        const posted = this.post(deed, meant, extra);
        if (this.moves) this.goOn(posted);
      } else if (MARKS.includes(deed)) {
        if (deed === 'read') this.leaving = null;
        this.post(this.mark(deed, rows), meant, extra);
      } else {
        await this.postAndShow(deed, meant, extra);
      }
    },

    /**
     * All that a routine does; the answer that it begins is written on a page of its own, when the rest is done. Of many
     * messages one is asked first: keys are quickly pressed.
     */
    async routine(chosen) {
      const { place, moves, answers, sends, name, sentence, asksDay, due } = chosen;
      const rows = this.list.chosen;
      const meant = this.list.meant();
      if (answers === 'true' && (rows.length > 1 || meant.all)) {
        schublade.tell('This routine answers: select one message.');
        return;
      }
      const count = meant.all ? this.list.size : rows.length;
      if (asksDay === 'true' && !due) {
        this.asking = { ...chosen };
        this.choose('routine-day');
        return;
      }
      const back = sends === 'true' ? 'Undo takes it back, and what it sends for a few seconds.' : 'Undo takes all of it back.';
      if (count > MANY && !(await schublade.isSure(`${name}, for ${count.toLocaleString('en')} messages?`, { button: 'Do it', note: `${sentence}. ${back}` }))) return;
      const answered = answers === 'true' ? this.list.current : null;
      const wanted = due ? { place, due } : { place };
      if (!answered) this.act('routine', wanted, moves === 'true' && this.moves);
      else if (await this.post('routine', meant, wanted)) this.beginAnswer(answered, place);
    },

    /** Nothing is written below the message any more; if it was sent, the next message is open. */
    answered({ sent, then }) {
      const { current } = this.list;
      this.list.box.focus({ preventScroll: true });
      schublade.refreshCabinet();
      const next = this.list.neighbour(1);
      if (sent && then) this.act(then === 'archive' ? 'archive' : 'file', then === 'archive' ? {} : { place: then });
      else if (sent && next && next.dataset.id !== current) this.pick(next.dataset.id, {});
      else if (current) schublade.ask('/message/' + current, { into: 'slots', still: () => this.$root.isConnected && this.list.current === current });
    },

    beginAnswer(message, routine) {
      const form = document.getElementById('answer-with');
      Object.assign(form.elements.message, { value: message });
      Object.assign(form.elements.routine, { value: routine });
      form.requestSubmit();
    },

    forGood(rows, meant) {
      if (meant.all) return 'Delete all of this list for good?';
      if (meant.conversations) return `Delete ${rows.length === 1 ? 'this conversation' : `these ${rows.length} conversations`} for good?`;
      return rows.length === 1 ? 'Delete this message for good?' : `Delete these ${rows.length} messages for good?`;
    },

    /** What shows at the rows and in the sheet only when the server has done it. */
    async postAndShow(deed, meant, extra) {
      await this.post(deed, meant, extra);
      await this.refresh();
      if (this.list.current && !schublade.isWriting()) this.open(this.list.current);
    },

    /** The rows leave at once; the next message is shown. */
    goOn(posted) {
      const next = this.list.takeOut();
      const { taken } = this.list;
      posted.then((done) => done || this.list.putBack(taken));
      if (next) {
        const gathering = !document.getElementById('sheet').dataset.message;
        this.list.select(next.dataset.id);
        if (!gathering) this.open(next.dataset.id, posted);
      } else {
        this.left();
        schublade.ask('/message/none', { into: 'sheet', still: () => this.$root.isConnected });
      }
      this.selectionChanged();
    },

    /** Marks rows the other way than most of them are; returns the deed that is to be sent. */
    mark(deed, rows) {
      if (deed === 'flag') {
        const flag = rows.some((row) => !row.classList.contains('flagged'));
        rows.filter((row) => row.classList.contains('flagged') !== flag).forEach((row) => showFlag(row, flag));
        return flag ? 'flag' : 'unflag';
      }
      const unread = rows.every((row) => !row.classList.contains('new'));
      rows.forEach((row) => row.classList.toggle('new', unread));
      return unread ? 'unread' : 'read';
    },

    async post(deed, meant, extra) {
      this.pending++;
      const done = await schublade.send('/act', { deed, ...meant, ...extra });
      this.pending--;
      if (deed !== 'glance') {
        this.deeds++;
        (meant.ids ?? [...this.ahead.keys()]).forEach((id) => this.ahead.delete(id));
        if (meant.conversations) this.ahead.clear();
      }
      // Of more than what is on the page only the server knows what was done to it.
      if (!done || this.stale || meant.all || meant.conversations) this.refresh();
      return done;
    },

    /** Fetches the list anew, but not while it is ahead of what the server knows. Resolves to whether another message is opened with that. */
    async refresh() {
      if (!this.$root.isConnected) return false;
      if (this.pending > 0) {
        this.stale = true;
        return false;
      }
      this.stale = false;
      const gone = await this.list.refresh();
      this.selectionChanged();
      const opens = gone && !schublade.isWriting() && Boolean(document.getElementById('sheet').dataset.message);
      if (opens) this.open(this.list.current);
      return opens;
    },
  }));
});
