/** What a promise gives, or undefined when it takes longer than so many ms. */
export function withinMs<Value>(limitMs: number, work: Promise<Value>): Promise<Value | undefined> {
  return new Promise((resolve, reject) => {
    const timer = setTimeout(() => resolve(undefined), limitMs);
    work.then(resolve, reject).finally(() => clearTimeout(timer));
  });
}
