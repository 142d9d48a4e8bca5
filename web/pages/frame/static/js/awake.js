// The screen stays on where hands are in fibre, as long as the page is looked at and the browser can do that.
async function stay() {
  if (document.visibilityState !== 'visible') return;
  await navigator.wakeLock.request('screen').catch(() => null); // low on power: it goes dark as it would
}
if ('wakeLock' in navigator) {
  document.addEventListener('visibilitychange', stay);
  stay();
}
