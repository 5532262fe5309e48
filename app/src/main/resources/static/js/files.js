/* Files of a message that is being written: chosen, dropped onto the page, or pasted; several messages that are forwarded. */
(() => {
  'use strict';

  const MOST_BYTES = 25_000_000;
  const SPOKEN_OF = /\b(attach(ed|ment|ments|ing)?|enclosed|anbei|angehängt|anhang|anlage|beigefügt|ci-joint|pièce jointe|allegat[oai]|adjunt[oa]s?|bijlage)\b/iu;

  const place = () => document.querySelector('[data-files-to]');

  /** What is done to the files is done one after the other: each answer has all of them, and the last one counts. */
  let last = Promise.resolve();
  const inTurn = (act) => {
    last = last.then(act).catch(() => false);
    return last;
  };

  /** Whether the message that the files are for is still open. */
  const isOpen = (goal) => place()?.dataset.filesTo === goal;

  /** Sends one file as its bytes; shows how far it is, with a way to stop. */
  const send = (file, goal) => new Promise((done) => {
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
      item.remove();
      if (request.status === 200) {
        const page = new DOMParser().parseFromString(request.responseText, 'text/html');
        if (isOpen(goal)) document.getElementById('files').replaceChildren(...page.getElementById('files').children);
      } else if (request.status) {
        const page = new DOMParser().parseFromString(request.responseText, 'text/html');
        schublade.tell(page.querySelector('.told, .problem, p')?.textContent.trim() ?? `“${file.name}” was not taken.`, true);
      } else if (request.readyState) {
        schublade.tell(`“${file.name}” did not arrive.`, true);
      }
      done();
    });
    request.open('POST', goal + '?' + new URLSearchParams({ name: file.name, type: file.type }));
    const { content, dataset } = document.querySelector('meta[name=csrf]');
    request.setRequestHeader(dataset.header, content);
    request.setRequestHeader('Content-Type', 'application/octet-stream');
    request.setRequestHeader('HX-Request', 'true');
    request.send(file);
  });

  const add = (files) => {
    const goal = place()?.dataset.filesTo;
    if (!goal) return;
    for (const file of files) {
      if (file.size > MOST_BYTES) schublade.tell(`“${file.name}” is too large: all files together may have ${MOST_BYTES / 1_000_000} MB.`, true);
      else inTurn(() => send(file, goal));
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
    if (event.target.type !== 'file' || !event.target.closest('[data-files-to]')) return;
    add([...event.target.files]);
    event.target.value = '';
  });

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
    add([...event.dataTransfer.files]);
  });
  document.addEventListener('paste', (event) => {
    if (!place() || !event.clipboardData?.files.length) return;
    event.preventDefault();
    add([...event.clipboardData.files]);
  });

  /** What is missing, if something is; it is asked once for each message. */
  const missing = (form) => {
    const own = schublade.ownWords(form).split(/^Forwarded from /mu)[0];
    const files = document.querySelectorAll('#files li').length;
    if (SPOKEN_OF.test(own) && !files) return 'You wrote of an attachment, and there is none.';
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
