/** The page's own style sheet: no file to ask for, both themes, paper, and phones from 320 px. */
export const styleSheet = `
:root{--paper:#fbfaf6;--card:#fff;--ink:#20262a;--soft:#555f66;--line:#d9d5ca;--delivered:#b08d3c;--needed:#2f6f73;--saved:#1d7f5c;--others:#8d8f98;--claim:#a1338a;--moved:#c2371f;--link:#1a5f8a;--del:#fbe3dc;--ins:#dcf1e4;color-scheme:light}
@media (prefers-color-scheme:dark){:root{--paper:#15191c;--card:#1d2327;--ink:#e8e4da;--soft:#a9b2b7;--line:#39424a;--delivered:#d9b866;--needed:#6fc3c7;--saved:#65cf9f;--others:#8b919c;--claim:#e08fd0;--moved:#ff8d72;--link:#7fc4ef;--del:#4a2620;--ins:#17402d;color-scheme:dark}}
*{box-sizing:border-box}
body{margin:0;background:var(--paper);color:var(--ink);font:16px/1.5 Georgia,'Iowan Old Style','Times New Roman',serif}
header,main{max-width:70rem;margin:0 auto;padding:0 1.25rem}
h1{font-size:1.7rem;margin:1.5rem 0 0}h2{font-size:1.3rem;margin:2.5rem 0 .75rem;border-bottom:2px solid var(--line)}h3{font-size:1rem;margin:1.25rem 0 .4rem}h4{font-size:.85rem;margin:0 0 .25rem;color:var(--soft);font-weight:normal}
header p{margin:.2rem 0}
nav a{margin-right:1rem}
a{color:var(--link)}
.lead{font-size:1.15rem}
.lead strong{white-space:nowrap}
.skip{position:absolute;left:-99rem}.skip:focus{left:1rem;top:1rem;background:var(--card);padding:.5rem}
.small,figcaption,legend,.note{font-size:.875rem;color:var(--soft)}
code,pre,.rank,.saved,table,select,button,svg,nav,.tools{font-family:system-ui,-apple-system,'Segoe UI',sans-serif}
code,pre{font-family:ui-monospace,'DejaVu Sans Mono',Menlo,monospace;font-size:.8125rem}
code{color:var(--soft)}
figure{margin:.5rem 0}
.plot,.wide{overflow-x:auto}
.plot svg{display:block;max-width:100%;height:auto}
svg text{white-space:pre}
table{border-collapse:collapse;font-size:.875rem;font-variant-numeric:tabular-nums}
th,td{padding:.2rem .7rem;text-align:right;border-bottom:1px solid var(--line);vertical-align:top}
th:first-child,th.words,td.words{text-align:left}
thead th{color:var(--soft);font-weight:normal}
tbody th{font-weight:600;max-width:24rem;overflow-wrap:anywhere}
.fixes{list-style:none;padding:0;margin:0}
.fix,.page{background:var(--card);border:1px solid var(--line);border-radius:3px;margin:.4rem 0}
.fix[open]>summary,.page[open]>summary{border-bottom:1px solid var(--line)}
.fix>summary,.page>summary{cursor:pointer;padding:.55rem .8rem}
.fix>summary{display:grid;grid-template-columns:2.2rem 1fr auto;gap:.2rem .6rem;align-items:baseline;list-style:none}
.fix>summary::-webkit-details-marker{display:none}
.rank{color:var(--soft);text-align:right}
.saved{font-weight:600;color:var(--saved);white-space:nowrap}.costs{color:var(--moved)}
.share{grid-column:2/4;height:4px}.share span{display:block;height:4px;background:var(--saved);min-width:1px}
.body{padding:.4rem .9rem .9rem}
.body details>summary{cursor:pointer;margin:.4rem 0}
.body details details{margin-left:1rem}
.why{margin:.4rem 0;padding-left:1.2rem}
li{overflow-wrap:anywhere}
.pair{display:grid;grid-template-columns:1fr 1fr;gap:1rem}
.pair>div{min-width:0}
pre{margin:0;white-space:pre-wrap;overflow-wrap:anywhere;padding:.6rem;background:var(--paper);border:1px solid var(--line);overflow-x:auto;max-height:26rem}
del{background:var(--del);color:inherit;text-decoration:none;border-bottom:2px solid var(--moved)}ins{background:var(--ins);color:inherit;text-decoration:none;border-bottom:2px solid var(--saved)}
button,select{font:inherit;font-size:.8125rem;color:var(--ink);background:var(--card);border:1px solid var(--soft);border-radius:3px;padding:.15rem .5rem;max-width:100%}
h4{display:flex;justify-content:space-between;align-items:end;min-height:1.8rem}.fix,.page,section{scroll-margin-top:4.5rem}
.detail{display:flex;flex-wrap:wrap;gap:1rem}
.detail figure{max-width:240px}.detail img{image-rendering:pixelated;max-width:100%;height:auto;display:block}
.detail figcaption{overflow-wrap:anywhere}
fieldset{border:0;padding:0;margin:0}legend{float:left;margin-right:.8rem}
fieldset label{margin-right:1rem}
.at-density{display:none}
.curves:has([value='1']:checked) .at-1,.curves:has([value='2']:checked) .at-2,.curves:has([value='3']:checked) .at-3{display:block}
.mark{display:inline-block;width:1.6rem;vertical-align:middle;border-top:3px solid;margin-left:.6rem}
.needed-line{border-color:var(--ink)}.claim-line{border-color:var(--claim);border-top-style:dotted}.proposed-line{border-color:var(--saved);border-top-style:dashed}.takes-line{border-color:var(--delivered)}.taken-line{border-color:var(--saved)}
.views{display:flex;flex-wrap:wrap;gap:1.25rem}
.view-pair{display:flex;flex-wrap:wrap;gap:.4rem}
.view-pair img{border:1px solid var(--line);display:block;max-width:100%;height:auto}
.overlaid{position:relative}.overlay svg{position:absolute;left:1px;top:1px;overflow:hidden;max-width:100%;height:auto}
.tools{position:sticky;top:0;z-index:1;display:flex;flex-wrap:wrap;gap:.5rem 1rem;align-items:center;padding:.6rem 0;background:var(--paper);border-bottom:1px solid var(--line);font-size:.8125rem}
.tools[hidden]{display:none}
.tools label{max-width:100%}
dt{float:left;clear:left;margin-right:.6rem;font-style:italic}dd{margin:0 0 .2rem 6rem}
:focus-visible{outline:2px solid var(--link);outline-offset:2px}
@media (max-width:44rem){.pair{grid-template-columns:1fr}header,main{padding:0 .8rem}.tools{position:static}dd{margin-left:5rem}}
@media print{body{background:#fff;font-size:11pt}.tools,.skip,button{display:none}.fix,.page{break-inside:avoid-page;border-color:#999}pre{max-height:none;white-space:pre-wrap}}
`.trim();
