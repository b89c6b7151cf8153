// What fontkit says of a font: outlines of all its glyphs, or kerning of pairs. Usage: node font-reference.mjs FONT [PAIRS.json]
import { readFileSync } from 'node:fs';
import { openSync } from 'fontkit';

const font = openSync(process.argv[2]);
const letters = { moveTo: 'M', lineTo: 'L', bezierCurveTo: 'C', closePath: 'Z' };
const only = {
  kern: true,
  liga: false,
  clig: false,
  calt: false,
  ccmp: false,
  rlig: false,
  mark: false,
  mkmk: false,
};

function outlines() {
  const said = [];
  for (let g = 0; g < font.numGlyphs; g++)
    said.push(
      font
        .getGlyph(g)
        .path.commands.map(({ command, args }) => letters[command] + args.map((n) => n.toFixed(4)).join(' '))
        .join(''),
    );
  return said;
}

function kerning(pairs) {
  return pairs.map((pair) => {
    const { glyphs, positions } = font.layout(pair, only);
    return glyphs.length === 2 ? positions[0].xAdvance - glyphs[0].advanceWidth : null;
  });
}

console.log(
  JSON.stringify(process.argv[3] ? kerning(JSON.parse(readFileSync(process.argv[3], 'utf8'))) : outlines()),
);
