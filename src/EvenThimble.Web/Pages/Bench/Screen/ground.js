// @ts-check
/** What lies under the stitches: the weave of the fabric, the hoop field, the rulers. */

/** @param {string} hex @param {number} by */
function lighter(hex, by) {
  const value = parseInt(hex.slice(1), 16);
  const channel = (/** @type {number} */ c) => Math.max(0, Math.min(255, Math.round(c + by)));
  return `rgb(${channel(value >> 16)} ${channel((value >> 8) & 255)} ${channel(value & 255)})`;
}

/** How light a colour is, 0 to 255. @param {string} hex */
export function lightness(hex) {
  const value = parseInt(hex.slice(1), 16);
  return 0.3 * (value >> 16) + 0.59 * ((value >> 8) & 255) + 0.11 * (value & 255);
}

/** @type {Record<string, (ctx: CanvasRenderingContext2D, size: number, colour: string) => void>} */
const weaves = {
  plain: (ctx, n, c) => overUnder(ctx, n, c, 7),
  coarse: (ctx, n, c) => overUnder(ctx, n, c, 15),
  knit: (ctx, n, c) => {
    ctx.strokeStyle = lighter(c, -14);
    ctx.lineWidth = n / 9;
    for (let k = 0; k < 2; k++) {
      const y = (k * n) / 2;
      ctx.beginPath();
      ctx.moveTo(0, y);
      ctx.lineTo(n / 2, y + n / 2);
      ctx.lineTo(n, y);
      ctx.stroke();
    }
  },
  terry: (ctx, n, c) => {
    for (const [x, y, shade] of [[0.25, 0.25, 16], [0.75, 0.7, 12], [0.72, 0.2, -12], [0.25, 0.78, -10]]) {
      ctx.strokeStyle = lighter(c, shade);
      ctx.lineWidth = n / 9;
      ctx.beginPath();
      ctx.arc(x * n, y * n, n * 0.17, 0.4, 5.2);
      ctx.stroke();
    }
  },
  twill: (ctx, n, c) => {
    for (let k = -1; k < 2; k++) {
      ctx.strokeStyle = lighter(c, k % 2 ? 13 : -11);
      ctx.lineWidth = n / 4.5;
      ctx.beginPath();
      ctx.moveTo(k * n - n * 0.2, n * 1.2);
      ctx.lineTo(k * n + n * 1.2, -n * 0.2);
      ctx.stroke();
      ctx.strokeStyle = lighter(c, -11);
      ctx.beginPath();
      ctx.moveTo(k * n + n * 0.3, n * 1.2);
      ctx.lineTo(k * n + n * 1.7, -n * 0.2);
      ctx.stroke();
    }
  },
  fleece: (ctx, n, c) => {
    let seed = 7;
    const next = () => (seed = (seed * 16807) % 2147483647) / 2147483647;
    for (let k = 0; k < 26; k++) {
      ctx.strokeStyle = lighter(c, next() * 20 - 10);
      ctx.lineWidth = n / 14;
      const x = next() * n, y = next() * n;
      ctx.beginPath();
      ctx.moveTo(x, y);
      ctx.lineTo(x + (next() - 0.5) * n * 0.4, y + (next() - 0.5) * n * 0.4);
      ctx.stroke();
    }
  },
  smooth: () => {},
};

/**
 * Threads over and under each other: each piece that lies on top is round, light along its middle and dark where it dips.
 * @param {CanvasRenderingContext2D} ctx @param {number} n @param {string} c @param {number} depth
 */
function overUnder(ctx, n, c, depth) {
  const h = n / 2;
  ctx.fillStyle = lighter(c, -depth * 1.6);
  ctx.fillRect(0, 0, n, n);
  for (const [column, row] of [[0, 0], [1, 1], [1, 0], [0, 1]]) {
    const across = column === row;
    const x = column * h, y = row * h;
    const round = across ? ctx.createLinearGradient(0, y, 0, y + h) : ctx.createLinearGradient(x, 0, x + h, 0);
    round.addColorStop(0, lighter(c, -depth));
    round.addColorStop(0.45, lighter(c, across ? depth * 0.8 : depth * 0.4));
    round.addColorStop(1, lighter(c, -depth));
    ctx.fillStyle = round;
    const dip = h * 0.07;
    if (across) ctx.fillRect(x - dip, y + dip, h + 2 * dip, h - 2 * dip);
    else ctx.fillRect(x + dip, y - dip, h - 2 * dip, h + 2 * dip);
  }
}

/** Millimetres that a repeat of the weave measures. @type {Record<string, number>} */
const repeatMm = { plain: 0.9, coarse: 1.6, knit: 1.5, terry: 2.4, twill: 1.3, fleece: 6, smooth: 10 };

/** @type {Map<string, CanvasPattern | null>} */
const patterns = new Map();

/** @param {CanvasRenderingContext2D} ctx @param {string} weave @param {string} colour @param {number} pxPerMm @returns {CanvasPattern | string} */
function fabric(ctx, weave, colour, pxPerMm) {
  const size = Math.round(repeatMm[weave] * pxPerMm);
  if (size < 3 || !weaves[weave]) return colour;
  const key = `${weave} ${colour} ${size}`;
  if (!patterns.has(key)) {
    if (patterns.size > 40) patterns.clear();
    const tile = document.createElement("canvas");
    tile.width = tile.height = size;
    const tileCtx = /** @type {CanvasRenderingContext2D} */ (tile.getContext("2d"));
    tileCtx.fillStyle = colour;
    tileCtx.fillRect(0, 0, size, size);
    weaves[weave](tileCtx, size, colour);
    patterns.set(key, ctx.createPattern(tile, "repeat"));
  }
  return patterns.get(key) ?? colour;
}

/**
 * @typedef {{ colour: string, weave: string, fields: import("./state.js").ScreenField[] }} Ground
 */

/** @param {import("./state.js").ScreenField} field @param {number} k pixels to the millimetre */
function edgeOf(field, k) {
  const path = new Path2D();
  for (let i = 0; i < field.edge.length; i += 2) path.lineTo(field.edge[i] * k, field.edge[i + 1] * k);
  path.closePath();
  return path;
}

/**
 * @param {CanvasRenderingContext2D} ctx in device pixels
 * @param {import("./layers.js").View} view
 * @param {number} ratio
 * @param {Ground} ground
 */
export function drawGround(ctx, view, ratio, ground) {
  const k = view.scale * ratio;
  const x0 = (view.width / 2 - view.x * view.scale) * ratio, y0 = (view.height / 2 - view.y * view.scale) * ratio;
  ctx.setTransform(1, 0, 0, 1, x0 % 1e6, y0 % 1e6);
  ctx.fillStyle = fabric(ctx, ground.weave, ground.colour, k);
  ctx.fillRect(-x0, -y0, view.width * ratio, view.height * ratio);
  const dark = lightness(ground.colour) < 120;
  // Outside the field the cloth lies in shade; inside, nothing is laid over its colour.
  const edges = ground.fields.map((field) => edgeOf(field, k));
  ctx.save();
  for (const edge of edges) {
    const outside = new Path2D();
    outside.rect(-x0, -y0, view.width * ratio, view.height * ratio);
    outside.addPath(edge);
    ctx.clip(outside, "evenodd");
  }
  ctx.fillStyle = dark ? "rgb(0 0 0 / .22)" : "rgb(31 42 55 / .10)";
  ctx.fillRect(-x0, -y0, view.width * ratio, view.height * ratio);
  ctx.restore();
  ctx.strokeStyle = dark ? "rgb(250 247 241 / .85)" : "rgb(47 75 124 / .75)";
  ctx.lineWidth = 1.25 * ratio;
  for (const edge of edges) ctx.stroke(edge);
  ctx.lineWidth = ratio;
  ctx.globalAlpha = 0.5;
  const arm = 4 * k;
  ctx.beginPath();
  for (const { x, y } of ground.fields) {
    ctx.moveTo(x * k - arm, y * k);
    ctx.lineTo(x * k + arm, y * k);
    ctx.moveTo(x * k, y * k - arm);
    ctx.lineTo(x * k, y * k + arm);
  }
  ctx.stroke();
  ctx.globalAlpha = 1;
}

const ruler = 20;

/**
 * Rulers along the upper and left edge, in mm or inches.
 * @param {CanvasRenderingContext2D} ctx @param {import("./layers.js").View} view @param {number} ratio @param {string} unit @param {boolean} darkTheme
 */
export function drawRulers(ctx, view, ratio, unit, darkTheme) {
  ctx.setTransform(ratio, 0, 0, ratio, 0, 0);
  const unitMm = unit === "in" ? 25.4 : 1;
  const steps = unit === "in" ? [0.125, 0.25, 0.5, 1, 2, 5] : [1, 2, 5, 10, 20, 50, 100];
  const step = steps.find((s) => s * unitMm * view.scale >= 7) ?? steps[steps.length - 1];
  const labelled = steps.find((s) => s >= step && s * unitMm * view.scale >= 44 && Math.abs(s / step - Math.round(s / step)) < 1e-9) ?? step * 5;
  ctx.fillStyle = darkTheme ? "#20262f" : "#faf7f1";
  ctx.fillRect(0, 0, view.width, ruler);
  ctx.fillRect(0, 0, ruler, view.height);
  ctx.strokeStyle = darkTheme ? "#7d8794" : "#8a8577";
  ctx.fillStyle = darkTheme ? "#c9d0d8" : "#5b5a52";
  ctx.font = "10px Figtree, sans-serif";
  ctx.textBaseline = "top";
  ctx.lineWidth = 1;
  for (const across of [true, false]) {
    const length = across ? view.width : view.height, middle = across ? view.x : view.y;
    const first = Math.ceil((middle - length / 2 / view.scale) / unitMm / step), last = Math.floor((middle + length / 2 / view.scale) / unitMm / step);
    ctx.beginPath();
    for (let n = first; n <= last; n++) {
      const at = Math.round((n * step * unitMm - middle) * view.scale + length / 2) + 0.5;
      if (at < ruler) continue;
      const main = Math.abs((n * step) / labelled - Math.round((n * step) / labelled)) < 1e-9;
      const from = main ? ruler - 9 : ruler - 4;
      ctx.moveTo(across ? at : from, across ? from : at);
      ctx.lineTo(across ? at : ruler, across ? ruler : at);
      if (!main || (!across && at < ruler + 26)) continue;
      const label = String(Math.round(n * step * 1000) / 1000);
      if (across) ctx.fillText(label, at + 2, 1);
      else {
        ctx.save();
        ctx.translate(1, at - 2);
        ctx.rotate(-Math.PI / 2);
        ctx.fillText(label, 0, 0);
        ctx.restore();
      }
    }
    ctx.stroke();
  }
  ctx.fillStyle = darkTheme ? "#20262f" : "#faf7f1";
  ctx.fillRect(0, 0, ruler, ruler);
  ctx.fillStyle = darkTheme ? "#c9d0d8" : "#5b5a52";
  ctx.fillText(unit, 3, 5);
}
