/**
 * Runs a piece, or a show, from outside: `const piece = await connect(); await piece.set('spread', 1, 3)`.
 * What is not followed is told as an Error, with the names there are.
 */
export function connect(url = 'ws://127.0.0.1:5180/control', Socket = globalThis.WebSocket) {
  const socket = new Socket(url);
  const waiting = [];
  let watching = () => undefined;
  const ask = (message) =>
    new Promise((resolve, reject) => {
      waiting.push([resolve, reject]);
      socket.send(JSON.stringify(message));
    });
  socket.onmessage = ({ data }) => {
    const answer = JSON.parse(data);
    if ('values' in answer) return watching(answer.values);
    const [resolve, reject] = waiting.shift();
    return 'error' in answer ? reject(new Error(answer.error)) : resolve(answer);
  };
  const piece = {
    set: (name, to, over = 0) => ask({ set: name, to, over }),
    cue: (name) => ask({ cue: name }),
    // Of a show.
    go: (name) => ask(name === undefined ? { next: true } : { piece: name }),
    blackout: (on) => ask({ blackout: on }),
    list: () => ask({ list: true }),
    watch: (call) => {
      watching = call;
      socket.send(JSON.stringify({ watch: true }));
    },
    close: () => socket.close(),
  };
  return new Promise((resolve, reject) => {
    socket.onopen = () => resolve(piece);
    socket.onerror = () => reject(new Error(`nobody answers at ${url}`));
  });
}
