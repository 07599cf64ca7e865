/** Keeps the pages on this device, where its browser allows it: only over an encrypted connection. */
export function keepAtHand() {
  if (window.isSecureContext && "serviceWorker" in navigator) {
    navigator.serviceWorker.register("/worker.js").catch(() => {
      // Without it everything works but opening the page where nobody answers.
    });
  }
}
