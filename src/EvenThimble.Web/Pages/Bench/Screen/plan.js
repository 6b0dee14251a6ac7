// @ts-check
/** The sewing plan as the server computed it: records in typed arrays, and an index of which of them lie where. */

export const STITCH = 0;
export const JUMP = 1;
export const TRIM = 2;
export const STOP = 4;

const cellMm = 2;

/**
 * @typedef {{ id: number, first: number, end: number }} PartRange
 * @typedef {{ minX: number, minY: number, maxX: number, maxY: number }} Box
 */

export class Plan {
  /** @param {ArrayBuffer} buffer as PlanStream wrote it */
  constructor(buffer) {
    const head = new DataView(buffer);
    if (head.getUint32(0, false) !== 0x4556504c) throw new Error("not a plan");
    this.count = head.getUint32(8, true);
    const parts = head.getUint32(12, true);
    /** @type {PartRange[]} */
    this.parts = [];
    for (let i = 0; i < parts; i++) {
      const at = 16 + i * 12;
      const first = head.getUint32(at + 4, true);
      this.parts.push({ id: head.getUint32(at, true), first, end: first + head.getUint32(at + 8, true) });
    }
    const places = 16 + parts * 12;
    this.xy = new Float32Array(buffer, places, this.count * 2);
    this.kinds = new Uint8Array(buffer, places + this.count * 8, this.count);
    /** @type {Uint32Array | null} */
    this._cellStarts = null;
    /** @type {Uint32Array | null} */
    this._cellRecords = null;
    this.box = this.boxOf(this.parts);
    this._columns = Math.max(1, Math.ceil((this.box.maxX - this.box.minX) / cellMm) + 1);
    this._rows = Math.max(1, Math.ceil((this.box.maxY - this.box.minY) / cellMm) + 1);
  }

  /** The rectangle about the needle points of parts; the origin alone when there are none. @param {PartRange[]} parts @returns {Box} */
  boxOf(parts) {
    const box = { minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity };
    for (const part of parts) {
      for (let i = part.first; i < part.end; i++) {
        if (this.kinds[i] !== STITCH) continue;
        const x = this.xy[2 * i], y = this.xy[2 * i + 1];
        if (x < box.minX) box.minX = x;
        if (x > box.maxX) box.maxX = x;
        if (y < box.minY) box.minY = y;
        if (y > box.maxY) box.maxY = y;
      }
    }
    return box.minX > box.maxX ? { minX: 0, minY: 0, maxX: 0, maxY: 0 } : box;
  }

  /** The number of the part that a record belongs to. @param {number} record */
  partAt(record) {
    const i = this.parts.findIndex((p) => record < p.end);
    return i < 0 ? this.parts.length - 1 : i;
  }

  /** How many needle points there are up to a record. @param {number} record */
  stitchesBefore(record) {
    if (!this._sums) {
      this._sums = new Uint32Array(this.count + 1);
      for (let i = 0; i < this.count; i++) this._sums[i + 1] = this._sums[i] + (this.kinds[i] === STITCH ? 1 : 0);
    }
    return this._sums[Math.max(0, Math.min(record, this.count))];
  }

  /** The next place after a needle position where something happens, or before it. @param {number} from @param {1 | -1} step @param {(record: number) => boolean} wanted */
  seek(from, step, wanted) {
    for (let i = from + step; i > 0 && i < this.count; i += step) if (wanted(i)) return i;
    return step > 0 ? this.count : 0;
  }

  /** Where a leap begins: the first jump after sewing. @param {number} record */
  isLeap(record) {
    return this.kinds[record] === JUMP && record > 0 && this.kinds[record - 1] !== JUMP;
  }

  /** Where a part begins. @param {number} record */
  isChange(record) {
    return this.parts.some((p) => p.first === record && record > 0);
  }

  _index() {
    const cells = this._columns * this._rows;
    const starts = new Uint32Array(cells + 1);
    /** @param {number} i */
    const cellOf = (i) => Math.floor((this.xy[2 * i + 1] - this.box.minY) / cellMm) * this._columns + Math.floor((this.xy[2 * i] - this.box.minX) / cellMm);
    for (let i = 0; i < this.count; i++) if (this.kinds[i] === STITCH) starts[cellOf(i) + 1]++;
    for (let c = 0; c < cells; c++) starts[c + 1] += starts[c];
    const records = new Uint32Array(starts[cells]);
    const next = starts.slice();
    for (let i = 0; i < this.count; i++) if (this.kinds[i] === STITCH) records[next[cellOf(i)]++] = i;
    this._cellStarts = starts;
    this._cellRecords = records;
  }

  /**
   * The parts under a place, the topmost first. A stitch is found by its end, so cells as far as a long stitch are looked at.
   * @param {number} x @param {number} y @param {number} reach mm
   * @returns {number[]} numbers of parts
   */
  partsAt(x, y, reach) {
    if (!this._cellStarts) this._index();
    const starts = /** @type {Uint32Array} */ (this._cellStarts), records = /** @type {Uint32Array} */ (this._cellRecords);
    const far = 7 + reach;
    const c0 = Math.max(0, Math.floor((x - far - this.box.minX) / cellMm)), c1 = Math.min(this._columns - 1, Math.floor((x + far - this.box.minX) / cellMm));
    const r0 = Math.max(0, Math.floor((y - far - this.box.minY) / cellMm)), r1 = Math.min(this._rows - 1, Math.floor((y + far - this.box.minY) / cellMm));
    const found = new Set();
    for (let r = r0; r <= r1; r++) {
      for (let c = c0; c <= c1; c++) {
        const cell = r * this._columns + c;
        for (let k = starts[cell]; k < starts[cell + 1]; k++) if (this._near(records[k], x, y, reach)) found.add(this.partAt(records[k]));
      }
    }
    return [...found].sort((a, b) => b - a);
  }

  /** @param {number} i @param {number} x @param {number} y @param {number} reach */
  _near(i, x, y, reach) {
    const bx = this.xy[2 * i], by = this.xy[2 * i + 1];
    const sewn = i > 0 && this.kinds[i - 1] !== TRIM;
    const ax = sewn ? this.xy[2 * i - 2] : bx, ay = sewn ? this.xy[2 * i - 1] : by;
    const dx = bx - ax, dy = by - ay;
    const length = dx * dx + dy * dy;
    const t = length === 0 ? 0 : Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / length));
    return Math.hypot(x - ax - t * dx, y - ay - t * dy) <= reach;
  }
}

/** @param {string} job @param {string} tag @returns {Promise<Plan>} */
export async function fetchPlan(job, tag) {
  const response = await fetch(`/jobs/${job}/plan?tag=${tag}`);
  if (!response.ok) throw new Error(await response.text());
  return new Plan(await response.arrayBuffer());
}
