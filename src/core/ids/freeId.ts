/** An id that none has, as near to a wish as can be. */
export const freeId = (taken: readonly { id: string }[], wish: string): string => {
  let id = wish.slice(0, 70);
  for (let n = 2; taken.some((one) => one.id === id); n++) id = `${wish.slice(0, 70)}-${n}`;
  return id;
};
