/* Files of a message that is being written: chosen, dropped onto the page, or pasted; several messages that are forwarded. */
(() => {
  'use strict';

  const MOST_BYTES = 25_000_000;
  const PICTURE = /^image\/(png|jpeg|gif|webp)$/;
  const SPOKEN_OF = /\b(attach(ed|ment|ments|ing)?|enclosed|anbei|angehängt|anhang|anlage|beigefügt|ci-joint|pièce jointe|allegat[oai]|adjunt[oa]s?|bijlage)\b/iu;

  const place = () => document.querySelector('[data-files-to]');

  /** What is done to the files is done one after the other: each answer has all of them, and the last one counts. */
  let last = Promise.resolve();
  const inTurn = (act) => {
    last = last.then(act).catch(() => false);
    return last;
  };

  /** How many files are on their way: whoever leaves the page then is asked first, for they would be lost. */
  let sending = 0;
  addEventListener('beforeunload', (event) => {
    if (sending > 0) event.preventDefault();
  });

  /** Whether the message that the files are for is still open. */
  const isOpen = (goal) => place()?.dataset.filesTo === goal;

  const said = (request, name) => {
    const page = new DOMParser().parseFromString(request.responseText, 'text/html');
    return page.querySelector('.told, .problem, p')?.textContent.trim() ?? `“${name}” was not taken.`;
  };

  /** Sends one file as its bytes; shows how far it is, with a way to stop. */
  const send = (file, goal, address, taken) => new Promise((done) => {
    const item = document.createElement('li');
    const bar = Object.assign(document.createElement('progress'), { max: 1, value: 0 });
    bar.setAttribute('aria-label', `How far ${file.name} is`);
    const stop = Object.assign(document.createElement('button'), { type: 'button', className: 'quiet', textContent: 'Stop' });
    item.append(Object.assign(document.createElement('span'), { className: 'name', textContent: file.name }), bar, stop);
    if (isOpen(goal)) document.getElementById('files').append(item);
    const request = new XMLHttpRequest();
    stop.addEventListener('click', () => request.abort());
    request.upload.addEventListener('progress', (event) => { bar.value = event.loaded / Math.max(1, event.total); });
    request.addEventListener('loadend', () => {
      sending--;
      item.remove();
      if (request.status === 200) {
        if (isOpen(goal)) taken(request.responseText);
      } else if (request.status) {
        schublade.tell(said(request, file.name), true);
      } else if (request.readyState) {
        schublade.tell(`“${file.name}” did not arrive.`, true);
      }
      done();
    });
    request.open('POST', address + '?' + new URLSearchParams({ name: file.name, type: file.type }));
    const { content, dataset } = document.querySelector('meta[name=csrf]');
    request.setRequestHeader(dataset.header, content);
    request.setRequestHeader('Content-Type', 'application/octet-stream');
    request.setRequestHeader('HX-Request', 'true');
    sending++;
    request.send(file);
  });

  const list = (html) => {
    const page = new DOMParser().parseFromString(html, 'text/html');
    document.getElementById('files').replaceChildren(...page.getElementById('files').children);
  };

  /** @param form in the text of which pictures are to stand; null if all of them go along beside it */
  const add = (files, form = null) => {
    const goal = place()?.dataset.filesTo;
    if (!goal) return;
    for (const file of files) {
      if (file.size > MOST_BYTES) {
        schublade.tell(`“${file.name}” is too large: all files together may have ${MOST_BYTES / 1_000_000} MB.`, true);
      } else if (form && PICTURE.test(file.type)) {
        const pictures = goal.replace(/files$/, 'pictures');
        inTurn(() => send(file, goal, pictures, (id) => schublade.putPicture(form, `${pictures}/${id}`, file.name)));
      } else {
        inTurn(() => send(file, goal, goal, list));
      }
    }
  };

  const remove = (address) => {
    const goal = place().dataset.filesTo;
    place().querySelector('[data-chooses-files]').focus();
    inTurn(() => schublade.ask(address, { method: 'POST', into: 'files', still: () => isOpen(goal) }));
  };

  document.addEventListener('click', (event) => {
    if (event.target.closest('[data-chooses-files]')) place().querySelector('input[type=file]').click();
    const out = event.target.closest('[data-file-out]');
    if (out) remove(out.dataset.fileOut);
  });

  document.addEventListener('change', (event) => {
    const { target } = event;
    if (target.type !== 'file' || !target.form?.matches('.compose')) return;
    add([...target.files], target.matches('.picture-file') ? target.form : null);
    target.value = '';
  });

  /** Whose text it is, if it is one with formatting. */
  const textAt = (target) => target.closest?.('.editor')?.closest('form') ?? null;

  const brings = (event) => place() && [...event.dataTransfer?.types ?? []].includes('Files');
  document.addEventListener('dragover', (event) => {
    if (!brings(event)) return;
    event.preventDefault();
    place().classList.add('over');
  });
  document.addEventListener('dragleave', (event) => { if (!event.relatedTarget) place()?.classList.remove('over'); });
  document.addEventListener('drop', (event) => {
    if (!brings(event)) return;
    event.preventDefault();
    place().classList.remove('over');
    const form = textAt(event.target);
    if (form) schublade.putCursor(form, event);
    add([...event.dataTransfer.files], form);
  });
  document.addEventListener('paste', (event) => {
    const data = event.clipboardData;
    if (!place() || !data?.files.length) return;
    const form = textAt(event.target);
    if (form && data.getData('text/plain').trim()) return; // The same as text: a table, for example.
    event.preventDefault();
    add([...data.files], form);
  });

  /** What is missing, if something is; it is asked once for each message. */
  const missing = (form) => {
    const own = schublade.ownWords(form).split(/^Forwarded from /mu)[0];
    const files = document.querySelectorAll('#files li').length;
    if (SPOKEN_OF.test(own) && !files && !form.querySelector('.editor img')) return 'You wrote of an attachment, and there is none.';
    return form.elements.subject.value.trim() ? null : 'There is no subject.';
  };

  document.addEventListener('submit', (event) => {
    const form = event.target;
    if (form.classList.contains('forwards')) {
      const chosen = [...document.querySelectorAll('#rows .row[aria-selected=true]')].map((row) => row.dataset.id);
      form.elements.ids.value = chosen.join(',');
      if (!chosen.length) {
        event.preventDefault();
        event.stopImmediatePropagation();
        schublade.tell('Select a message first: with the arrow keys, or a click.');
      }
    }
    if (form.id !== 'compose') return;
    if (document.querySelector('#files progress')) {
      event.preventDefault();
      event.stopImmediatePropagation();
      schublade.tell('A file is still on its way here. Send when it has arrived, or stop it.', true);
      return;
    }
    if ('asked' in form.dataset) return;
    const what = missing(form);
    if (!what) return;
    form.dataset.asked = '';
    event.preventDefault();
    event.stopImmediatePropagation();
    schublade.tell(what + ' Send once more to send it so.', true);
  }, { capture: true });
})();
