/**
 * The order of all that is there and of all that was taken out, which stays behind what it stood behind: `known` as it
 * was, `there` what is there now, in its order by now.
 */
export function wholeOrder(known: readonly string[], there: readonly string[]): string[] {
  const order = [...there];
  known.forEach((id, at) => {
    if (!order.includes(id)) order.splice(order.indexOf(known[at - 1] ?? '') + 1, 0, id);
  });
  return order;
}

/** Where among what is there something comes back: behind the last of those that stand before it in the whole order. */
export function placeBack(id: string, there: readonly string[], order: readonly string[]): number {
  const ahead = order.slice(0, order.indexOf(id));
  return there.findLastIndex((other) => ahead.includes(other)) + 1;
}
