import { mkdir, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { parentPort } from 'node:worker_threads';
import sharp from 'sharp';
import type { PictureRecipe } from './catalogue.js';
import { paint } from './paint.js';

/** Work for one worker thread: paint a picture and put its files into a folder. */
export interface PaintOrder {
  recipe: PictureRecipe;
  folder: string;
}

sharp.concurrency(1);

parentPort?.on('message', ({ recipe, folder }: PaintOrder) => {
  void (async () => {
    for (const { file, content } of await paint(recipe)) {
      await mkdir(dirname(join(folder, file)), { recursive: true });
      await writeFile(join(folder, file), content);
    }
    parentPort?.postMessage({ done: recipe.name });
  })();
});
