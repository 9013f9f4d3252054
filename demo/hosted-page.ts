/**
 * A page whose pictures come from a host that resizes by address: one far too large, a row with false sizes and one width too few, one of
 * which the host chooses the format, and one that does it right.
 * @param host origin of the host
 */
export const hostedPage = (host: string): string => `<!doctype html>
<html lang="en">
<head>
  <meta charset="utf-8">
  <meta name="viewport" content="width=device-width, initial-scale=1">
  <title>The year in pictures · Norrfell Huts</title>
  <link rel="icon" href="data:,">
  <style>
    body { margin: 0 auto; max-width: 1120px; padding: 0 20px; font: 16px/1.5 sans-serif }
    img { display: block; width: 100%; height: auto }
    ul { display: grid; grid-template-columns: repeat(auto-fill, minmax(260px, 1fr)); gap: 16px; padding: 0; list-style: none }
  </style>
</head>
<body>
  <h1>The year in pictures</h1>
  <img src="${host}/skarn.jpg?width=3600&amp;quality=90" width="3600" height="2400" alt="The hut Skarn and the ridges behind it">
  <p>Three hundred days of wind, and some without.</p>
  <ul>
    <li><img src="${host}/lonebotn.jpg?width=1600" srcset="${host}/lonebotn.jpg?width=800 800w, ${host}/lonebotn.jpg?width=1600 1600w" sizes="100vw" width="1600" height="1067" alt="Lonebotn from the water" loading="lazy"></li>
    <li><img src="${host}/hvitkollen.jpg?width=1200&amp;format=auto" width="1200" height="800" alt="Hvitkollen under its first snow" loading="lazy"></li>
    <li><img src="${host}/timber-hall.jpg?width=640&amp;format=avif&amp;quality=55" srcset="${host}/timber-hall.jpg?width=360&amp;format=avif&amp;quality=55 360w, ${host}/timber-hall.jpg?width=640&amp;format=avif&amp;quality=55 640w, ${host}/timber-hall.jpg?width=1080&amp;format=avif&amp;quality=55 1080w" sizes="(max-width: 603px) calc(100vw - 40px), (max-width: 879px) calc(50vw - 28px), (max-width: 1160px) calc(33.3vw - 24px), 363px" width="1080" height="720" alt="The hall, walls of sawn planks" loading="lazy"></li>
  </ul>
</body>
</html>
`;
