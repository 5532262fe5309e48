/*
 * The rows of the list: which are selected, which one is current, and fetching them anew without a jump. However long a list
 * is, the page has only the rows around what is in view; above them a gap stands for those before.
 */
(() => {
  'use strict';

  /** As many rows as the page has at most, and by how many it is filled up and cut down. */
  const MOST_ROWS = 400;
  const PAGE = 100;

  class MessageList {
    constructor(address) {
      this.address = address;
      this.selected = new Set();
      this.current = null;
      this.anchor = null;
      this.everything = false;
      /** The number of the first row that the page has. */
      this.first = 0;
      /** Selected rows that the page does not have at the moment, by their ids. */
      this.away = new Map();
      /** The rows that are marked as selected or current. */
      this.marked = new Set();
      this.turn = Promise.resolve();
      this.isFillWaiting = false;
    }

    /** What fetches rows is done one after the other. */
    inTurn(act) {
      this.turn = this.turn.then(act, act);
      return this.turn;
    }

    get box() { return document.getElementById('rows'); }
    /** Rows that have a number in the list: all but those inside of an open conversation. */
    get numbered() { return this.rows.filter((row) => !row.classList.contains('inner')); }
    get scroll() { return document.querySelector('.list .scroll'); }
    get rows() { return [...(this.box?.querySelectorAll('.row') ?? [])]; }
    row(id) { return document.getElementById('m' + id) ?? this.away.get(id) ?? null; }
    get gap() { return document.getElementById('gap'); }
    /** How many there are, as far as that has been counted. */
    get size() { return Number(document.getElementById('pills')?.dataset.size ?? 0); }
    get conversations() { return document.querySelector('.main')?.dataset.conversations === 'true'; }
    get isAllSelected() { return this.selected.size > 0 && this.selected.size === this.rows.length; }
    get chosen() { return [...this.selected].map((id) => this.row(id)).filter(Boolean); }

    /** Selects one row: alone, with those up to it (range), or in addition (toggle). */
    select(id, { range = false, toggle = false } = {}) {
      this.everything = false;
      if (range && this.anchor) {
        const ids = this.rows.map((row) => row.dataset.id);
        const [from, to] = [ids.indexOf(this.anchor), ids.indexOf(id)].sort((a, b) => a - b);
        this.selected = new Set(from < 0 ? [id] : ids.slice(from, to + 1));
      } else if (toggle) {
        if (!this.selected.delete(id)) this.selected.add(id);
        this.anchor = id;
      } else {
        this.selected = new Set([id]);
        this.anchor = id;
        this.away.clear();
      }
      this.current = id;
      this.show();
      this.row(id)?.scrollIntoView({ block: 'nearest' });
    }

    selectAll() {
      this.selected = new Set(this.rows.map((row) => row.dataset.id));
      this.show();
    }

    selectEverything() {
      this.selectAll();
      this.everything = true;
    }

    /** How the selection is named to the server. */
    meant() {
      if (this.everything) return { all: this.address };
      const ids = this.chosen.map((row) => row.dataset.id);
      const folded = this.conversations && this.chosen.some((row) => row.classList.contains('many') && !this.isOpen(row));
      return folded ? { ids, conversations: this.address } : { ids };
    }

    /** The ids of the labels that all selected messages have. */
    sharedLabels() {
      const all = this.chosen.map((row) => (row.dataset.labels ?? '').split(' ').filter(Boolean));
      return (all[0] ?? []).filter((label) => all.every((labels) => labels.includes(label)));
    }

    /** Whether all selected messages have this category already. */
    allHave(category) { return this.chosen.every((row) => (row.dataset.categories ?? '').split(' ').includes(category)); }

    isOpen(row) { return row.querySelector('.fold')?.dataset.open === 'true'; }

    /** Shows the other messages of a row's conversation below it, or folds them again. */
    async toggleFold(row, open = !this.isOpen(row)) {
      const fold = row.querySelector('.fold');
      if (!fold || open === this.isOpen(row)) return;
      fold.dataset.open = String(open);
      if (open) {
        const slot = document.createElement('div');
        slot.id = 'unfolded-' + row.dataset.id;
        slot.setAttribute('role', 'presentation');
        row.after(slot);
        await schublade.ask('/mail/conversation/' + row.dataset.id + '?' + new URLSearchParams({ here: this.address }),
          { into: slot.id, still: () => slot.isConnected });
      } else {
        while (row.nextElementSibling?.classList.contains('inner')) row.nextElementSibling.remove();
      }
      this.show();
    }

    /** What came in above what is in view, where the list is scrolled. */
    tellNews(count) {
      const button = document.getElementById('news');
      if (!button || count === 0) return;
      const all = count + Number(button.hidden ? 0 : button.dataset.count);
      button.dataset.count = String(all);
      button.textContent = `${all} new`;
      button.hidden = false;
    }

    /** How many there are, all in all and with each filter. */
    async count() {
      if (await schublade.ask(this.address, { into: 'pills', still: () => Boolean(this.box) })) document.dispatchEvent(new Event('list-counted'));
    }

    /** Writes the selection into the page; rows that it does not concern are not touched. */
    show() {
      if (!this.box) return; // The user has gone to another page.
      const current = this.current && document.getElementById('m' + this.current);
      this.away.forEach((row, id) => document.getElementById('m' + id) && this.away.delete(id));
      const now = new Set(this.chosen);
      if (current) now.add(current);
      for (const row of [...this.marked].filter((one) => !now.has(one))) {
        row.setAttribute('aria-selected', 'false');
        row.classList.remove('current');
      }
      for (const row of now) {
        row.setAttribute('aria-selected', String(this.selected.has(row.dataset.id)));
        row.classList.toggle('current', row === current);
      }
      this.marked = now;
      if (current) {
        current.setAttribute('aria-setsize', String(this.size || -1));
        current.setAttribute('aria-posinset', String(this.first + this.rows.indexOf(current) + 1));
        this.box.setAttribute('aria-activedescendant', current.id);
      } else {
        this.box.removeAttribute('aria-activedescendant');
      }
    }

    /** How high a row is on average, with its share of the headings. */
    get rowHeight() {
      const { rows } = this;
      return rows.length < 2 ? 51 : (rows.at(-1).getBoundingClientRect().bottom - rows[0].getBoundingClientRect().top) / rows.length;
    }

    addressOf(values) {
      return this.address + (this.address.includes('?') ? '&' : '?') + new URLSearchParams(values);
    }

    /** Keeps room for the rows before those that the page has. */
    keepGap(height) {
      const gap = this.gap ?? Object.assign(document.createElement('div'), { id: 'gap' });
      gap.setAttribute('role', 'presentation');
      gap.style.height = Math.max(0, this.first === 0 ? 0 : height) + 'px';
      if (!gap.isConnected) this.box.prepend(gap);
    }

    /** Does something to the rows while what is in view stays where it is. */
    steadily(act) {
      const { scroll } = this;
      const top = scroll.getBoundingClientRect().top;
      const before = this.rows.find((row) => row.getBoundingClientRect().bottom > top);
      const offset = before?.getBoundingClientRect().top;
      act();
      const after = before && document.getElementById(before.id);
      if (after) scroll.scrollTop += after.getBoundingClientRect().top - offset;
    }

    /** Shows the part of the list that begins with the row of a number. */
    async showFrom(number, count = 2 * PAGE) {
      const { scroll } = this;
      const height = this.rowHeight;
      const first = Math.max(0, number);
      const { scrollTop } = scroll;
      if (!await schublade.ask(this.addressOf({ first, rows: count }), { into: 'rows', still: () => scroll.isConnected })) return false;
      this.first = first;
      this.keepGap(first * height);
      scroll.scrollTop = scrollTop;
      this.show();
      return true;
    }

    /** Rows that were taken off the page are kept if they are selected. */
    takeOff(rows) {
      rows.forEach((row) => {
        if (this.selected.has(row.dataset.id)) this.away.set(row.dataset.id, row);
        row.remove();
      });
    }

    /** Rows of which the page has too many, far from what is in view, go; those that will be in view soon are fetched. */
    fill() {
      if (this.isFillWaiting) return;
      this.isFillWaiting = true;
      this.inTurn(() => {
        this.isFillWaiting = false;
        return this.fillNow();
      });
    }

    async fillNow() {
      const { scroll } = this;
      if (!this.box || !scroll.checkVisibility()) return;
      const { top, height } = scroll.getBoundingClientRect();
      const { rows } = this;
      if (rows.length === 0) return;
      const above = top - rows[0].getBoundingClientRect().top;
      const below = rows.at(-1).getBoundingClientRect().bottom - top - height;
      if (above < -height || below < -height) {
        await this.showFrom(Math.floor(scroll.scrollTop / this.rowHeight) - PAGE / 2);
      } else if (above < height && this.first > 0) {
        await this.fetchEarlier();
      }
      if (this.rows.length > MOST_ROWS) this.cut(above > below);
    }

    async fetchEarlier() {
      const { first, scroll } = this;
      const count = Math.min(PAGE, first);
      const part = await schublade.fetchAhead(this.addressOf({ first: first - count, rows: count }), 'earlier');
      if (part === null || !scroll.isConnected || this.first !== first) return;
      this.steadily(() => {
        const { content } = Object.assign(document.createElement('template'), { innerHTML: part });
        content.querySelectorAll('.row').forEach((row) => document.getElementById(row.id) && row.remove());
        const heading = this.gap.nextElementSibling;
        if (heading?.matches('.div') && heading.textContent === [...content.querySelectorAll('.div')].at(-1)?.textContent) heading.remove();
        this.gap.after(content);
        this.first -= count;
        this.keepGap(this.first * this.rowHeight);
        this.show();
      });
    }

    /** Takes rows off the page: the first ones, or the last ones, which are fetched again when they come into sight. */
    cut(first) {
      const { rows } = this;
      const going = first ? rows.slice(0, rows.length - MOST_ROWS + PAGE) : rows.slice(MOST_ROWS - PAGE);
      if (going.some((row) => row.classList.contains('inner'))) return; // A conversation is open there.
      if (first) {
        this.steadily(() => {
          this.takeOff(going);
          this.dropEmptyHeadings();
          this.first += going.length;
          this.keepGap(this.first * this.rowHeight);
        });
        return;
      }
      this.takeOff(going);
      this.dropEmptyHeadings();
      document.getElementById('more')?.remove();
      const more = Object.assign(document.createElement('div'), { id: 'more', className: 'more' });
      const group = [...this.box.querySelectorAll('.div')].at(-1)?.textContent;
      Object.entries({ role: 'presentation', 'hx-get': this.addressOf({ first: this.first + this.numbered.length, ...(group ? { under: group } : {}) }),
        'hx-trigger': 'intersect root:.scroll once', 'hx-target': 'this', 'hx-swap': 'outerHTML' }).forEach(([name, value]) => more.setAttribute(name, value));
      this.box.append(more);
      htmx.process(more);
    }

    dropEmptyHeadings() {
      this.box.querySelectorAll('.div').forEach((heading) => {
        const after = heading.nextElementSibling;
        if (!after || after.classList.contains('div') || after.id === 'more') heading.remove();
      });
    }

    /** The first row of all, or the last. */
    end(last) { return this.inTurn(() => this.endNow(last)); }

    async endNow(last) {
      if (last && !this.size) await this.count();
      const { size } = this;
      const there = last ? !document.getElementById('more') : this.first === 0;
      if (!there && !await this.showFrom(last ? size - PAGE : 0)) return null;
      this.scroll.scrollTop = last ? this.scroll.scrollHeight : 0;
      return last ? this.rows.at(-1) : this.rows[0];
    }

    /** The row so many places from the current one, which may have to be fetched. */
    reach(by) { return this.inTurn(() => this.reachNow(by)); }

    async reachNow(by) {
      const rows = this.rows;
      const at = rows.findIndex((row) => row.dataset.id === this.current);
      if (at + by < 0 && this.first > 0) await this.fetchEarlier();
      const more = document.getElementById('more');
      if (at + by >= rows.length && more) {
        await new Promise((done) => {
          document.addEventListener('htmx:afterSettle', done, { once: true });
          htmx.trigger(more, 'intersect');
          setTimeout(done, 2000);
        });
      }
      return this.neighbour(by);
    }

    /** The row so many places from the current one; the first or last where there is none. */
    neighbour(by) {
      const rows = this.rows;
      const at = rows.findIndex((row) => row.dataset.id === this.current);
      if (at < 0) return by > 0 ? rows[0] : rows.at(-1);
      return rows[Math.min(rows.length - 1, Math.max(0, at + by))];
    }

    /** Takes the selected rows out; returns the one that stands where they were, if any is left. */
    takeOut() {
      const rows = this.rows;
      const going = new Set(this.chosen);
      const last = rows.findLastIndex((row) => going.has(row));
      const next = rows.slice(last + 1).find((row) => !going.has(row)) ?? rows.slice(0, last).findLast((row) => !going.has(row));
      this.taken = [...going].filter((row) => row.isConnected).map((row) => ({ row, before: row.previousElementSibling, after: row.nextElementSibling }));
      going.forEach((row) => row.remove());
      this.dropEmptyHeadings();
      this.away.clear();
      this.selected.clear();
      this.everything = false;
      this.current = null;
      this.show();
      return next;
    }

    /** What was taken out is there again: nobody took it over. */
    putBack(taken) {
      taken.filter(({ row }) => !document.getElementById(row.id)).forEach(({ row, before, after }) => {
        if (before?.isConnected) before.after(row);
        else if (after?.isConnected) after.before(row);
        else this.box?.prepend(row);
      });
      this.show();
    }

    /** Where one is in the list, for coming back to it. */
    keepPlace() {
      if (!this.box) return;
      const place = { first: this.first, rows: this.rows.length, top: this.scroll.scrollTop, current: this.current };
      sessionStorage.setItem('schublade-place ' + this.address, JSON.stringify(place));
    }

    /** Shows again the part of the list in which a message stands that one was at. */
    async comeBackTo(id) {
      const place = JSON.parse(sessionStorage.getItem('schublade-place ' + this.address) ?? '{}');
      if (place.current !== id) return;
      const { scroll } = this;
      if (!this.row(id) && (place.first ?? 0) + place.rows > this.rows.length) await this.inTurn(() => this.showFrom(place.first ?? 0, Math.min(place.rows, MOST_ROWS)));
      if (scroll.isConnected) scroll.scrollTop = place.top;
    }

    /**
     * Fetches the rows anew; what is in view stays where it is, what was selected stays selected. If the current row is gone, as
     * another window took it away, the next one is current; resolves to whether that is so.
     */
    async refresh() {
      const { scroll, first: from } = this;
      const count = Math.max(this.rows.length, PAGE / 2);
      const top = scroll.getBoundingClientRect().top;
      const first = scroll.scrollTop > 0 ? this.rows.find((row) => row.getBoundingClientRect().bottom > top) : null;
      const offset = first ? first.getBoundingClientRect().top : 0;
      const focused = document.activeElement === this.box;
      const before = new Set(this.rows.map((row) => row.dataset.id));
      const at = this.rows.findIndex((row) => row.dataset.id === this.current);
      const gap = this.gap?.offsetHeight ?? 0;
      const came = await schublade.ask(this.addressOf(from ? { first: from, rows: count } : { rows: count }), { into: 'rows', still: () => scroll.isConnected && this.first === from });
      if (!scroll.isConnected || !came || this.first !== from) return false; // The user has gone elsewhere, or nobody answered.
      if (from > 0 && this.rows.length === 0) {
        await this.showFrom(from - PAGE); // There are fewer by now.
        return false;
      }
      this.keepGap(gap);
      this.count();
      this.selected = new Set([...this.selected].filter((id) => this.row(id)));
      if (this.everything) this.selectEverything();
      this.show();
      const same = first && this.row(first.dataset.id);
      if (same) this.tellNews(this.rows.slice(0, this.rows.indexOf(same)).filter((row) => !before.has(row.dataset.id)).length);
      if (same) scroll.scrollTop += same.getBoundingClientRect().top - offset;
      if (focused && document.activeElement === document.body) this.box.focus({ preventScroll: true }); // Unless the user went elsewhere meanwhile.
      const narrowed = document.querySelector('#pills .on'); // Then what is read may only have become read.
      const next = at >= 0 && !narrowed && !this.row(this.current) ? this.rows[Math.min(at, this.rows.length - 1)] : null;
      if (next) this.select(next.dataset.id);
      return Boolean(next);
    }
  }

  window.MessageList = MessageList;
})();
