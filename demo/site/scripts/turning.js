const pictures = document.querySelectorAll('.turning img');
let now = 0;
setInterval(() => {
  pictures[now].classList.remove('now');
  now = (now + 1) % pictures.length;
  pictures[now].classList.add('now');
}, 4000);
