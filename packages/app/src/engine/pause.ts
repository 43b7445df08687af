/** Lets messages in; waits when there is time to wait, in milliseconds. */
export function pause(milliseconds: number): Promise<void> {
  return new Promise((resolve) => {
    if (milliseconds > 2) setTimeout(resolve, milliseconds - 1);
    else {
      const { port1, port2 } = new MessageChannel();
      port1.onmessage = () => {
        port1.close();
        resolve();
      };
      port2.postMessage(0);
    }
  });
}
