const sized = 'width="100mm" height="60mm" viewBox="0 0 100 60"'
const svg = (inside: string, head = sized) =>
  `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" ${head}>${inside}</svg>`

/** Drawings as programs write them, each with something that changes where its filled shapes are seen. */
export const svgCases: Readonly<Record<string, string>> = {
  'hidden by a style': svg(
    '<rect width="20" height="20"/><rect x="30" width="20" height="20" style="display:none"/><rect x="60" width="20" height="20" style="fill:none"/>',
  ),
  'hidden by a class': svg(
    '<style>.gone{display:none} g.back rect{visibility:hidden} #one{visibility:visible !important}</style><rect class="gone" width="20" height="20"/><g class="back"><rect x="30" width="20" height="20"/><rect id="one" x="60" width="20" height="20"/></g><circle cx="20" cy="40" r="8"/>',
  ),
  'hidden by what it lies in': svg(
    '<g><g style="display:none"><rect width="20" height="20"/></g><rect x="30" width="20" height="20"/></g><g visibility="hidden"><rect y="30" width="20" height="20"/><rect visibility="visible" x="30" y="30" width="20" height="20"/></g>',
  ),
  'a style sheet with an order': svg(
    '<style type="text/css"><![CDATA[ rect { fill: none } rect.seen { fill: #123 } @media print { circle { display: none } } @media screen { ellipse { display: none } } ]]></style><rect width="20" height="20"/><rect class="seen" x="30" width="20" height="20"/><circle cx="70" cy="30" r="8"/><ellipse cx="70" cy="50" rx="8" ry="4"/>',
  ),
  'a transform in a style': svg(
    '<rect width="10" height="20" style="transform:translate(30px,10px) rotate(30deg) scale(1.5)"/><rect width="10" height="10" transform="translate(50 5)" style="transform: translateX(70px) skewX(0.2rad)"/>',
  ),
  'turns and slants': svg(
    '<g transform="rotate(20 50 30) skewX(10)"><rect x="40" y="20" width="20" height="20" rx="4"/></g><g transform="matrix(.8 .2 -.1 1.1 5 5)"><circle cx="12" cy="12" r="8"/></g><rect x="80" y="40" width="15" height="10" transform="scale(-1,1) translate(-180,0)"/>',
  ),
  'lengths with units': svg(
    '<rect x="1cm" y="5mm" width="20mm" height=".5in"/><circle cx="60mm" cy="72pt" r="1pc"/><rect x="70%" y="50%" width="20%" height="40%"/><circle cx="90" cy="10" r="5%"/>',
    'width="100mm" height="60mm"',
  ),
  'a size of its own against a view box': svg(
    '<rect x="10" y="10" width="180" height="100" rx="10"/>',
    'width="100mm" height="60mm" viewBox="0 0 200 120"',
  ),
  'a view box of another shape': svg(
    '<rect x="0" y="0" width="50" height="50"/><circle cx="25" cy="60" r="8"/>',
    'width="100mm" height="60mm" viewBox="0 0 50 70"',
  ),
  'a view box at the lower right': svg(
    '<rect x="5" y="5" width="40" height="20"/>',
    'width="100mm" height="60mm" viewBox="0 0 50 50" preserveAspectRatio="xMaxYMax meet"',
  ),
  'a view box that is cut': svg(
    '<circle cx="25" cy="25" r="12"/>',
    'width="100mm" height="60mm" viewBox="0 0 50 50" preserveAspectRatio="xMidYMid slice"',
  ),
  'a view box that is stretched': svg(
    '<circle cx="25" cy="25" r="20"/><rect x="40" y="40" width="8" height="8" rx="2"/>',
    'width="100mm" height="60mm" viewBox="0 0 50 50" preserveAspectRatio="none"',
  ),
  'corners of two radii': svg(
    '<rect x="5" y="5" width="40" height="20" rx="12" ry="4"/><rect x="55" y="5" width="40" height="20" ry="6"/><rect x="5" y="35" width="40" height="20" rx="30" ry="3"/><rect x="55" y="35" width="40" height="20" style="rx:9;ry:2px"/>',
  ),
  'a drawing within': svg(
    '<svg x="10" y="10" width="30" height="30" viewBox="0 0 10 10"><rect x="1" y="1" width="8" height="4"/><svg x="50%" y="5" width="4" height="4"><circle cx="2" cy="2" r="2"/></svg></svg><svg x="50" y="10" width="40" height="20" viewBox="0 0 10 10" preserveAspectRatio="xMinYMin"><rect width="10" height="10"/></svg>',
  ),
  'repeated things': svg(
    '<defs><g id="pair"><circle r="3"/><rect x="5" y="-3" width="6" height="6"/></g><symbol id="mark" viewBox="0 0 10 10"><path d="M0 0h10v10h-4z"/></symbol></defs><use href="#pair" x="10" y="10"/><use xlink:href="#pair" transform="translate(40 10) rotate(90) scale(.8)"/><use href="#mark" x="60" y="5" width="20" height="30"/><g id="own"><rect x="5" y="40" width="10" height="10"/></g><use href="#own" x="20" y="2"/>',
  ),
  'what stands in definitions': svg(
    '<defs><rect width="50" height="50"/></defs><symbol id="s"><rect width="50" height="50"/></symbol><clipPath id="c"><rect width="40" height="40"/></clipPath><rect x="60" y="5" width="20" height="20"/>',
  ),
  'a clip that cuts nothing': svg(
    '<clipPath id="page"><rect width="100" height="60"/></clipPath><g clip-path="url(#page)"><rect x="10" y="10" width="30" height="30"/><circle cx="70" cy="30" r="20"/></g>',
  ),
  'a switch': svg(
    '<switch><rect x="60" width="10" height="10" requiredExtensions="http://example.invalid/x"/><g><rect x="10" y="10" width="30" height="30"/></g></switch>',
  ),
  paths: svg(
    '<path d="M10 10h20v20h-20z"/><path d="M40 30a10 6 30 1 1 20 4z"/><path d="M70 10q10 -10 20 0t0 20s-10 10 -20 0z"/><path d="m10,40 l20,0 0,15 -20,0z m40 0c0 10 20 10 20 0z"/>',
  ),
  'polygons with commas': svg(
    '<polygon points="10,10 30,10,30,30 10 30"/><polyline points="50 10 80 10 65,40"/><ellipse cx="20" cy="48" rx="12" ry="6"/>',
  ),
  'a prefix to every name': svg('<rect width="20" height="20" x="5" y="5"/>')
    .replaceAll('<rect', '<s:rect')
    .replaceAll('<svg', '<s:svg')
    .replaceAll('</svg', '</s:svg')
    .replace('xmlns=', 'xmlns:s='),
}
