// Gives pictures their address when they come near the screen.
const near = new IntersectionObserver(
  (entries) => {
    for (const { isIntersecting, target } of entries) {
      if (!isIntersecting) continue;
      target.srcset = target.dataset.srcset;
      target.src = target.dataset.src;
      near.unobserve(target);
    }
  },
  { rootMargin: '200px' },
);
for (const image of document.querySelectorAll('img.late')) near.observe(image);
