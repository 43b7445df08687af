/** Does something once the frame that is being made has been drawn; gives what calls it off. */
export function afterFrame(act: () => void): () => void {
  let timer: ReturnType<typeof setTimeout> | undefined;
  const frame = requestAnimationFrame(() => {
    timer = setTimeout(act);
  });
  return () => {
    cancelAnimationFrame(frame);
    clearTimeout(timer);
  };
}
