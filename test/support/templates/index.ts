export type { SiteFiles } from './pictures.js';
export { blockKits } from './block-kits.js';
export { grownBlog } from './grown-blog.js';
export { hashedBuild } from './hashed-build.js';
export { magazine } from './magazine.js';
export { oddLayouts } from './odd-layouts.js';
export { oddMarkup } from './odd-markup.js';
export { shop } from './shop.js';
