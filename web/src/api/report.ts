/** Sends the details of a fault to the server's log. Where that cannot be, it stays in the browser's own. */
export const postFault = (details: string): void => {
  console.error(details);
  fetch('/api/faults', {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ details: details.slice(0, 8000) }),
    keepalive: true,
  }).catch(() => {});
};
