/** Waits until the next frame is about to be drawn. */
export const nextFrame = () => new Promise((resolve) => requestAnimationFrame(resolve));
