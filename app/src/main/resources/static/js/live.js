/* Listens to what the server tells of changes, and fetches anew what the page shows of them. */
(() => {
  'use strict';

  if (!document.querySelector('meta[name=csrf]')) return; // Nobody is logged in.

  const PAUSE_MILLIS = 300;
  let busy = false;
  let again = false;

  /** @param by the window that changed something, if it was just one */
  const refresh = async (by) => {
    if (by === schublade.windowName() && document.getElementById('rows')) {
      document.dispatchEvent(new CustomEvent('mail-changed', { detail: 'own' }));
      return;
    }
    if (busy) {
      again = true;
      return;
    }
    busy = true;
    again = false;
    document.dispatchEvent(new CustomEvent('mail-changed'));
    await schublade.refreshCabinet();
    setTimeout(() => {
      busy = false;
      if (again) refresh();
    }, PAUSE_MILLIS);
  };

  /** Two short notes, soft enough for an office. */
  const ring = () => {
    const audio = new AudioContext();
    [659, 880].forEach((frequency, number) => {
      const tone = audio.createOscillator();
      const volume = audio.createGain();
      const begin = audio.currentTime + number * 0.16;
      tone.frequency.value = frequency;
      volume.gain.setValueAtTime(0.12, begin);
      volume.gain.exponentialRampToValueAtTime(0.001, begin + 0.3);
      tone.connect(volume).connect(audio.destination);
      tone.start(begin);
      tone.stop(begin + 0.3);
    });
    setTimeout(() => audio.close(), 1000);
  };

  /** New mail, or what is due: in the strip, and by the system where that was permitted and nobody looks here. */
  const notice = ({ message, sender, subject, sound, due }) => {
    schublade.tell(due ? `Due now: ${subject} (${sender})` : `${sender}: ${subject}`);
    if (sound) ring();
    if (document.hidden && window.Notification?.permission === 'granted') {
      const shown = new Notification(due ? 'Due now' : sender, { body: due ? `${subject}, ${sender}` : subject, tag: (due ? 'due-' : 'message-') + message });
      shown.addEventListener('click', () => {
        window.focus();
        location.assign('/message/' + message);
      });
    }
  };

  document.addEventListener('click', async (event) => {
    if (!event.target.closest('[data-permits-notices]')) return;
    const answer = window.Notification ? await Notification.requestPermission() : 'denied';
    schublade.tell(answer === 'granted' ? 'New mail shows beside other windows from now on.'
      : 'This browser does not permit it; its own settings for this page can.', answer !== 'granted');
  });

  let greeted = false;
  let source = null;
  const listen = () => {
    source?.close();
    source = new EventSource('/live');
    source.addEventListener('changed', (event) => refresh(event.data));
    source.addEventListener('notice', (event) => notice(JSON.parse(event.data)));
    source.addEventListener('draft', ({ data }) => {
      const [id, by] = data.split(' ');
      if (by !== schublade.windowName()) document.dispatchEvent(new CustomEvent('draft-changed', { detail: id }));
    });
    source.addEventListener('hello', () => {
      // After a break something may have been missed.
      if (greeted) refresh();
      greeted = true;
      document.documentElement.dataset.live = ''; // From now on nothing is missed.
    });
  };
  listen();
  document.addEventListener('logged-in-again', listen);
  window.addEventListener('pagehide', () => source.close());
})();
