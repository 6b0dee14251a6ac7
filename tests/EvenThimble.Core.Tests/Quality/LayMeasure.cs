using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using SkiaSharp;

namespace EvenThimble.Core.Tests.Quality;

/// <summary>
/// How thread lies on a shape, as a practitioner looks at it: what is on top, how thick it is, where it runs across what is finished, what it misses. Measured on a raster of
/// its own that knows of each place which stitch lies on top, without the code that made the stitches.
/// </summary>
/// <param name="Off">Mean over the throws that show of how far they are off square, degrees.</param>
/// <param name="Turning">Percent of neighbouring throws that show between which the direction turns by more than 30 degrees.</param>
/// <param name="OverThree">Percent of the shape with more than three layers (7.5 mm of thread a mm²).</param>
/// <param name="OverFour">The same for four layers.</param>
/// <param name="Thick">Thread on a mm², mm: 99th percentile over the shape.</param>
/// <param name="Thickest">The most of it.</param>
/// <param name="Stray">Length of the longest piece of thread that shows without a neighbour that goes its way, mm.</param>
/// <param name="Out">How far thread lies outside the shape at the most, mm.</param>
/// <param name="Crowd">The most needle points within 0.3 mm of one.</param>
/// <param name="Corners">Corners of the outline that stick out.</param>
/// <param name="Missed">Those that thread stays away from by more than 0.35 mm.</param>
/// <param name="Bare">The largest bare place, mm².</param>
/// <param name="Thread">Thread used, mm, for each mm² of the shape.</param>
/// <param name="ThreadOfGround">The same for each mm² of what is sewn: the shape with compensation on cotton at its edges.</param>
public sealed record LayMeasure(double Off, double Turning, double OverThree, double OverFour, double Thick, double Thickest, double Stray, double Out, int Crowd, int Corners, int Missed, double Bare, double Thread, double ThreadOfGround)
{
    private const double Pixel = 1 / 14.0;
    private const double HalfThread = 0.2;
    private const double LayerMm = 2.5;
    private const double Parallel = 30;

    /// <summary>Measures runs of needle points (ties included) on a shape of outlines (odd crossings inside).</summary>
    public static LayMeasure Of(IReadOnlyList<Point[]> outlines, IReadOnlyList<IReadOnlyList<Point>> runs) => new Look(outlines, runs).Measure();

    private sealed class Look
    {
        private readonly IReadOnlyList<Point[]> _outlines;
        private readonly IReadOnlyList<IReadOnlyList<Point>> _runs;
        private readonly List<(Point A, Point B, int Run)> _stitches = [];
        private readonly Raster _raster;
        private readonly bool[] _inside;
        private readonly int[] _onTop;
        private readonly double[] _thread;
        private readonly Edges _edges;

        public Look(IReadOnlyList<Point[]> outlines, IReadOnlyList<IReadOnlyList<Point>> runs)
        {
            (_outlines, _runs) = (outlines, runs);
            for (var r = 0; r < runs.Count; r++)
                for (var i = 1; i < runs[r].Count; i++)
                    _stitches.Add((runs[r][i - 1], runs[r][i], r));
            _raster = Raster.About(outlines.SelectMany(o => o).Concat(runs.SelectMany(r => r)), 1 / Pixel);
            _inside = Inside(grown: 0);
            _onTop = new int[_raster.Columns * _raster.Rows];
            _thread = new double[_raster.Columns * _raster.Rows];
            Array.Fill(_onTop, -1);
            for (var i = 0; i < _stitches.Count; i++) Lay(i);
            _edges = new(outlines);
        }

        public LayMeasure Measure()
        {
            var thread = _stitches.Sum(s => s.A.DistanceTo(s.B)) / (Pixel * Pixel);
            var thick = Thickness();
            Array.Sort(thick);
            var (off, turning) = Throws();
            var corners = _outlines.SelectMany(Corners).ToList();
            return new(
                off,
                turning,
                100.0 * thick.Count(t => t > 3 * LayerMm) / thick.Length,
                100.0 * thick.Count(t => t > 4 * LayerMm) / thick.Length,
                thick[(int)(0.99 * (thick.Length - 1))],
                thick[^1],
                Strays(),
                Outermost(),
                Crowd(),
                corners.Count,
                corners.Count(c => _stitches.Min(s => Edges.Distance(c, s.A, s.B)) > HalfThread + 0.35),
                Bare(),
                thread / Math.Max(1, _inside.Count(i => i)),
                thread / Math.Max(1, Inside(ClothProfiles.Cotton.CompensationMm).Count(i => i)));
        }

        /// <summary>What lies in the shape, or within so many mm of it.</summary>
        private bool[] Inside(double grown)
        {
            var info = new SKImageInfo(_raster.Columns, _raster.Rows, SKColorType.Gray8, SKAlphaType.Opaque);
            using var bitmap = new SKBitmap(info);
            using var canvas = new SKCanvas(bitmap);
            canvas.Clear(SKColors.Black);
            canvas.Scale((float)(1 / Pixel));
            canvas.Translate((float)-_raster.Left, (float)-_raster.Top);
            using var paint = new SKPaint { Color = SKColors.White, Style = grown > 0 ? SKPaintStyle.StrokeAndFill : SKPaintStyle.Fill, StrokeWidth = (float)(2 * grown) };
            using var path = StitchMeasure.PathOf(_outlines);
            canvas.DrawPath(path, paint);
            return Array.ConvertAll(bitmap.GetPixelSpan().ToArray(), b => b > 127);
        }

        private void Lay(int number)
        {
            var (a, b, _) = _stitches[number];
            var length = a.DistanceTo(b);
            for (var d = 0.025; d < length; d += 0.05) _thread[_raster.At(a.Toward(b, d / length))] += 0.05;
            _raster.Near(a, b, HalfThread, (i, _) => _onTop[i] = number);
        }

        /// <summary>Thread within a square of 1 mm around each place of the shape, mm.</summary>
        private double[] Thickness()
        {
            var (columns, rows, across) = (_raster.Columns, _raster.Rows, _raster.Columns + 1);
            var sums = new double[across * (rows + 1)];
            for (var y = 0; y < rows; y++)
                for (var x = 0; x < columns; x++)
                    sums[((y + 1) * across) + x + 1] = _thread[(y * columns) + x] + sums[(y * across) + x + 1] + sums[((y + 1) * across) + x] - sums[(y * across) + x];
            const int half = 7; // of 14 pixels a mm
            var found = new List<double>();
            for (var y = 0; y < rows; y++)
                for (var x = 0; x < columns; x++)
                {
                    if (!_inside[(y * columns) + x]) continue;
                    var (x0, x1, y0, y1) = (Math.Max(0, x - half), Math.Min(columns, x + half), Math.Max(0, y - half), Math.Min(rows, y + half));
                    found.Add(sums[(y1 * across) + x1] - sums[(y0 * across) + x1] - sums[(y1 * across) + x0] + sums[(y0 * across) + x0]);
                }

            return found.Count == 0 ? [0] : [.. found];
        }

        /// <summary>Throws are stitches from edge to edge that show.</summary>
        private (double Off, double Turning) Throws()
        {
            var (sum, count, pairs, turned) = (0.0, 0, 0, 0);
            var before = new (int Number, Point Direction, Point Middle)[2];
            var number = 0;
            foreach (var (from, to, first, last) in Unsplit())
            {
                number++;
                if (from.DistanceTo(to) < 1 || !Shows(first, last)) continue;
                if (_edges.DirectionAt(from) is not { } here || _edges.DirectionAt(to) is not { } there || _edges.DirectionAt(from.Toward(to, 0.5), 0.25) is not null) continue;
                var direction = (to - from).Unit();
                if (Math.Abs(direction.Dot(here)) > 0.9 || Math.Abs(direction.Dot(there)) > 0.9) continue;
                foreach (var b in before)
                {
                    if (b.Number != number - 2 || b.Number == 0 || b.Middle.DistanceTo(from.Toward(to, 0.5)) > 1) continue;
                    pairs++;
                    if (Math.Abs(direction.Dot(b.Direction)) < Math.Cos(Parallel * Math.PI / 180)) turned++;
                }

                (before[0], before[1]) = (before[1], (number, direction, from.Toward(to, 0.5)));
                var across = direction.Normal();
                var along = (here * (here.Dot(across) < 0 ? -1 : 1)) + (there * (there.Dot(across) < 0 ? -1 : 1));
                if (along.Length < 0.5) continue;
                sum += Math.Asin(Math.Clamp(Math.Abs(direction.Dot(along)) / along.Length, 0, 1)) * 180 / Math.PI;
                count++;
            }

            return (count == 0 ? 0 : sum / count, pairs == 0 ? 0 : 100.0 * turned / pairs);
        }

        /// <summary>Stitches that go straight on are one throw.</summary>
        private IEnumerable<(Point From, Point To, int First, int Last)> Unsplit()
        {
            for (var i = 0; i < _stitches.Count;)
            {
                var k = i;
                while (k + 1 < _stitches.Count && _stitches[k + 1].Run == _stitches[i].Run && (_stitches[k].B - _stitches[k].A).Unit().Dot((_stitches[k + 1].B - _stitches[k + 1].A).Unit()) > 0.9995) k++;
                yield return (_stitches[i].A, _stitches[k].B, i, k);
                i = k + 1;
            }
        }

        private bool Shows(int first, int last)
        {
            var (shown, all) = (0, 0);
            for (var s = first; s <= last; s++)
                for (var t = 0.05; t < 1; t += 0.1, all++)
                    if (_onTop[_raster.At(_stitches[s].A.Toward(_stitches[s].B, t))] is var top && top >= first && top <= last + 2)
                        shown++;
            return shown * 2 > all;
        }

        /// <summary>Thread that shows and has on neither side a neighbour that goes its way.</summary>
        private double Strays()
        {
            const double step = 0.1;
            var longest = 0.0;
            for (var i = 0; i < _stitches.Count; i++)
            {
                var (a, b, _) = _stitches[i];
                var (length, direction, alone) = (a.DistanceTo(b), (b - a).Unit(), 0.0);
                for (var d = step / 2; d < length; d += step)
                {
                    var p = a + (direction * d);
                    alone = _onTop[_raster.At(p)] == i && IsAlone(i, p, direction) ? alone + step : 0;
                    longest = Math.Max(longest, alone);
                }
            }

            return longest;
        }

        private bool IsAlone(int number, Point p, Point direction)
        {
            var (normal, inside) = (direction.Normal(), false);
            ReadOnlySpan<double> near = [0.26, 0.36, 0.46, 0.56];
            foreach (var side in (ReadOnlySpan<int>)[1, -1])
            {
                foreach (var away in near)
                {
                    var at = _raster.At(p + (normal * (side * away)));
                    if (at < 0 || at >= _onTop.Length) continue;
                    inside |= _inside[at] && away > 0.4;
                    if (_onTop[at] is >= 0 and var other && other != number && Math.Abs(direction.Dot((_stitches[other].B - _stitches[other].A).Unit())) > Math.Cos(Parallel * Math.PI / 180)) return false;
                }
            }

            return inside;
        }

        private double Outermost()
        {
            var most = 0.0;
            foreach (var (a, b, _) in _stitches)
            {
                var length = a.DistanceTo(b);
                for (var d = 0.0; d <= length; d += 0.2)
                {
                    var p = a.Toward(b, length < 1e-9 ? 0 : d / length);
                    if (!_inside[_raster.At(p)]) most = Math.Max(most, _edges.DistanceFrom(p));
                }
            }

            return most;
        }

        private int Crowd()
        {
            var points = _runs.SelectMany(r => r).ToList();
            var grid = points.ToLookup(p => ((int)Math.Floor(p.X / 0.3), (int)Math.Floor(p.Y / 0.3)));
            var most = 0;
            foreach (var p in points)
            {
                var (x, y, there) = ((int)Math.Floor(p.X / 0.3), (int)Math.Floor(p.Y / 0.3), 0);
                for (var i = -1; i <= 1; i++)
                    for (var j = -1; j <= 1; j++)
                        there += grid[(x + i, y + j)].Count(q => q.DistanceTo(p) <= 0.3);
                most = Math.Max(most, there);
            }

            return most;
        }

        /// <summary>Corners of a ring that stick out of the shape, looked at over 0.5 mm on either side; between 40 and 140 degrees.</summary>
        private IEnumerable<Point> Corners(Point[] ring)
        {
            for (var i = 0; i < ring.Length; i++)
            {
                var (here, back, on) = (ring[i], Along(ring, i, -1), Along(ring, i, 1));
                if ((here - ring[(i + ring.Length - 1) % ring.Length]).Unit().Dot((ring[(i + 1) % ring.Length] - here).Unit()) > 0.94) continue;
                var turn = Math.Acos(Math.Clamp((here - back).Unit().Dot((on - here).Unit()), -1, 1)) * 180 / Math.PI;
                var within = _raster.At(back.Toward(on, 0.5));
                if (turn is > 40 and < 140 && _inside[within] && _inside[_raster.At(here.Toward(back.Toward(on, 0.5), 0.5))]) yield return here;
            }
        }

        private static Point Along(Point[] ring, int from, int step)
        {
            var (at, walked) = (from, 0.0);
            for (var k = 0; k < ring.Length; k++)
            {
                var next = (at + step + ring.Length) % ring.Length;
                var d = ring[at].DistanceTo(ring[next]);
                if (walked + d >= 0.5) return ring[at].Toward(ring[next], (0.5 - walked) / d);
                walked += d;
                at = next;
            }

            return ring[at];
        }

        private double Bare()
        {
            var (seen, largest) = (new bool[_inside.Length], 0);
            for (var i = 0; i < _inside.Length; i++)
            {
                if (!IsBare(i)) continue;
                var patch = new List<int> { i };
                seen[i] = true;
                for (var k = 0; k < patch.Count; k++)
                    foreach (var n in (ReadOnlySpan<int>)[patch[k] - 1, patch[k] + 1, patch[k] - _raster.Columns, patch[k] + _raster.Columns])
                        if (n >= 0 && n < seen.Length && IsBare(n))
                        {
                            seen[n] = true;
                            patch.Add(n);
                        }

                largest = Math.Max(largest, patch.Count);
            }

            return largest * Pixel * Pixel;

            bool IsBare(int at) => _inside[at] && _onTop[at] < 0 && !seen[at];
        }
    }
}
