using EvenThimble.Core.Geometry;
using Truth = EvenThimble.Core.Tests.Respacing.Makings.Truth;

namespace EvenThimble.Core.Tests.Respacing;

/// <summary>Ways of sewing that are met less often: throws with steps between them, rows about a point or between two curves, stitches of the hand.</summary>
internal static class RareMakings
{
    /// <summary>What is sewn, its way, its name, and what it is.</summary>
    public static IEnumerable<(string Way, string Name, Truth Truth, IEnumerable<Point> Points)> All()
    {
        yield return ("satin with steps", "wave", Truth.Satin, Stepped(t => new(60 * t, 8 * Math.Sin(5 * t)), 3, 80, 0.4));
        yield return ("satin with steps", "ring", Truth.Satin, Stepped(t => Polar(14, 360 * t), 5, 88, 0.42));
        yield return ("satin with steps", "broad bar", Truth.Satin, Stepped(t => new(40 * t, 10 * t), 6, 41, 0.4));
        yield return ("satin about corners", "frame", Truth.Satin, Frame(40, 30, 4, 0.2));
        yield return ("spokes about a point aside", "disc", Truth.Fill, Enumerable.Range(0, 200).SelectMany(k => Row(new Point(5, 3) + Polar(1, k * 1.8), Polar(15, k * 1.8), 3.4, k % 2 == 1)));
        yield return ("spokes of a half", "disc", Truth.Fill, Enumerable.Range(0, 110).SelectMany(k => Row(Polar(1.5, k * 1.64), Polar(14, k * 1.64), 3.2, k % 2 == 1)));
        yield return ("rows in arcs", "quarter", Truth.Fill, Enumerable.Range(0, 30).SelectMany(k => Arc(6 + (k * 0.42), 90, 3, k % 2 == 1)));
        yield return ("rows between two curves", "ribbon", Truth.Fill, Enumerable.Range(0, 56).SelectMany(k => Between(k / 55.0, k % 2 == 1)));
        yield return ("few rows", "nine", Truth.Fill, Enumerable.Range(0, 9).SelectMany(k => Row(new(0, k * 0.42), new(25, k * 0.42), 3.4, k % 2 == 1)));
        yield return ("rows in sections", "close seams", Truth.Fill, Sections(0.4, 20));
        yield return ("rows in sections", "wide seams", Truth.Fill, Sections(0.6, 0));
        yield return ("rows in sections", "way in line with a row", Truth.Fill, Sections(0.4, 20, wayInLine: true));
        yield return ("rows in sections, ways across them", "disc with a hole", Truth.Fill, Filled([Circle(14), Circle(5)], 30));
        yield return ("rows in sections, ways across them", "letter E", Truth.Fill, Filled([[new(0, 0), new(20, 0), new(20, 6), new(7, 6), new(7, 11), new(17, 11), new(17, 17), new(7, 17), new(7, 22), new(20, 22), new(20, 28), new(0, 28)]], 25));
        yield return ("rows in sections, ways across them", "heart", Truth.Fill, Filled([Heart(15)], 0));
        yield return ("satin that closes a ring", "6 mm", Truth.Satin, Enumerable.Range(0, 500).Select(k => Polar(k % 2 == 0 ? 9 : 15, k * 0.72)));
        yield return ("stem stitch", "bar", Truth.Line, Enumerable.Range(0, 40).SelectMany(k => new Point[] { new((k * 1.6) + 3, 0.25), new((k * 1.6) + 1.6, -0.25) }));
        yield return ("stem stitch", "broader", Truth.Line, Enumerable.Range(0, 40).SelectMany(k => new Point[] { new((k * 1.7) + 3.2, 0.3), new((k * 1.7) + 1.7, -0.3) }));
        yield return ("line sewn twice beside itself", "ring", Truth.Line, Arc(12, 360, 2.4, false).Concat(Arc(12.3, 360, 2.4, false)));
        yield return ("half crosses", "block", Truth.Line, HalfCrosses(12, 10, 2.2));
        yield return ("feather stitch", "bar", Truth.Line, Enumerable.Range(0, 25).SelectMany(k => new Point[] { new(k * 3, 0), new((k * 3) + 2, k % 2 == 0 ? 2.5 : -2.5), new(k * 3, 0), new((k * 3) + 3, 0) }));
    }

    /// <summary>Throws across a middle line, each joined to the next by a stitch along the edge.</summary>
    private static IEnumerable<Point> Stepped(Func<double, Point> middle, double width, double length, double pitch)
    {
        var throws = (int)(length / pitch);
        for (var k = 0; k <= throws; k++)
        {
            var t = k / (double)throws;
            var across = (middle(t + 0.002) - middle(t - 0.002)).Unit().Normal() * (width / 2);
            yield return middle(t) + (k % 2 == 0 ? across : across * -1);
            yield return middle(t) + (k % 2 == 0 ? across * -1 : across);
        }
    }

    /// <summary>A frame of satin whose throws turn about the inner corners.</summary>
    private static IEnumerable<Point> Frame(double width, double height, double band, double pitch)
    {
        Point[] inner = [new(0, 0), new(width, 0), new(width, height), new(0, height)];
        var rungs = new List<(Point Inner, Point Outer)>();
        for (var side = 0; side < 4; side++)
        {
            var (from, to, after) = (inner[side], inner[(side + 1) % 4], inner[(side + 2) % 4]);
            var (out1, out2) = ((to - from).Unit().Normal() * band, (after - to).Unit().Normal() * band);
            for (var x = 0.0; x < from.DistanceTo(to); x += pitch) rungs.Add((from.Toward(to, x / from.DistanceTo(to)), from.Toward(to, x / from.DistanceTo(to)) + out1));
            for (var x = 0.0; x < 2 * band; x += pitch) rungs.Add((to, to + (x < band ? out1 + (out2 * (x / band)) : out2 + (out1 * (2 - (x / band))))));
        }

        return rungs.Select((r, k) => k % 2 == 0 ? r.Outer : r.Inner);
    }

    private static IEnumerable<Point> HalfCrosses(int across, int down, double size)
    {
        for (var row = 0; row < down; row++)
        {
            for (var k = 0; k < across; k++)
            {
                var corner = new Point((row % 2 == 0 ? k : across - 1 - k) * size, row * size);
                yield return corner;
                yield return corner + new Point(size, size);
            }
        }
    }

    /// <summary>A square in four sections, one after another; a seam lies between each two of them that meet.</summary>
    /// <param name="seam">How far the outermost rows of two sections lie apart, mm; rows lie 0.4 mm apart.</param>
    /// <param name="turn">How far it all is turned, degrees.</param>
    /// <param name="wayInLine">Whether the last section is narrower, and the way to it goes on into its first row.</param>
    private static IEnumerable<Point> Sections(double seam, double turn, bool wayInLine = false)
    {
        const double spacing = 0.4;
        const int rows = 20;
        var height = (rows - 1) * spacing;
        IEnumerable<Point> Section(double left, double right, double top) =>
            Enumerable.Range(0, rows).SelectMany(k => Row(new(left, top + (k * spacing)), new(right, top + (k * spacing)), 3.4, k % 2 == 1));
        var (middle, bottom) = (height + seam, (2 * height) + (2 * seam));
        IEnumerable<Point> Way(params Point[] by) => by.Zip(by.Skip(1), (from, to) => Row(from, to, 2, false)).SelectMany(w => w);
        return Section(0, 24, 0).Concat(Section(0, 10, middle)).Concat(Way(new(0, bottom - seam), new(10, bottom - seam), new(10, middle))).Concat(Section(10, 24, middle))
            .Concat(Way(new(10, bottom - seam), new(0, bottom))).Concat(Section(wayInLine ? 8 : 0, 24, bottom))
            .Select(p => p.Turned(turn, Point.Zero));
    }

    /// <summary>
    /// Rows 0.4 mm apart in a shape, from edge to edge. Where more of them or fewer lie beside each other than before a section ends, and the needle goes straight to where the next begins.
    /// </summary>
    /// <param name="outlines">Of the shape and its holes.</param>
    /// <param name="turn">How far the rows are turned, degrees.</param>
    private static IEnumerable<Point> Filled(Point[][] outlines, double turn) => WithWays(Sections(outlines, turn));

    /// <summary>Sections one after another, with a straight way from each to the next.</summary>
    public static IEnumerable<Point> WithWays(IReadOnlyList<List<Point>> sections) =>
        sections.SelectMany((section, k) => k == 0 ? section : Row(sections[k - 1][^1], section[0], 2.2, false).Concat(section));

    /// <summary>The sections of such rows by themselves.</summary>
    public static List<List<Point>> Sections(Point[][] outlines, double turn)
    {
        const double spacing = 0.4;
        Point[][] level = [.. outlines.Select(o => o.Select(p => p.Turned(-turn, Point.Zero)).ToArray())];
        var (top, bottom) = (level.SelectMany(o => o).Min(p => p.Y), level.SelectMany(o => o).Max(p => p.Y));
        var (sections, open) = (new List<List<(Point Left, Point Right)>>(), new List<List<(Point Left, Point Right)>>());
        for (var y = top + (spacing / 2); y < bottom; y += spacing)
        {
            var rows = RowsAt(level, y);
            bool Meet((Point Left, Point Right) a, (Point Left, Point Right) b) => a.Left.X < b.Right.X && a.Right.X > b.Left.X;
            var next = new List<List<(Point Left, Point Right)>>();
            foreach (var row in rows)
            {
                var above = open.Where(s => Meet(s[^1], row)).ToList();
                var section = above.Count == 1 && rows.Count(r => Meet(above[0][^1], r)) == 1 ? above[0] : [];
                if (section.Count == 0) sections.Add(section);
                section.Add(row);
                next.Add(section);
            }

            open = next;
        }

        return sections.ConvertAll(section => section.SelectMany((r, k) => Row(r.Left, r.Right, 3.3, k % 2 == 1)).Select(p => p.Turned(turn, Point.Zero)).ToList());
    }

    /// <summary>Where a level line lies within outlines, from left to right; what is shorter than a stitch is left out.</summary>
    private static List<(Point Left, Point Right)> RowsAt(Point[][] outlines, double y)
    {
        var hits = outlines.SelectMany(o => o.Zip([.. o[1..], o[0]], (a, b) => (A: a, B: b))).Where(e => e.A.Y <= y == e.B.Y > y)
            .Select(e => e.A.X + ((e.B.X - e.A.X) * (y - e.A.Y) / (e.B.Y - e.A.Y))).Order().ToList();
        return [.. Enumerable.Range(0, hits.Count / 2).Select(k => (new Point(hits[2 * k], y), new Point(hits[(2 * k) + 1], y))).Where(r => r.Item2.X - r.Item1.X > 0.4)];
    }

    private static Point[] Circle(double radius) => [.. Enumerable.Range(0, 120).Select(k => Polar(radius, k * 3))];

    private static Point[] Heart(double size) => [.. Enumerable.Range(0, 240).Select(i => i * Math.PI / 120).Select(t => new Point(size * Math.Pow(Math.Sin(t), 3), -size / 16 * ((13 * Math.Cos(t)) - (5 * Math.Cos(2 * t)) - (2 * Math.Cos(3 * t)) - Math.Cos(4 * t))))];

    private static IEnumerable<Point> Row(Point from, Point to, double stitch, bool back)
    {
        var pieces = Math.Max(1, (int)(from.DistanceTo(to) / stitch));
        return Enumerable.Range(0, pieces + 1).Select(s => from.Toward(to, (back ? pieces - s : s) / (double)pieces));
    }

    private static IEnumerable<Point> Arc(double radius, double turn, double stitch, bool back)
    {
        var pieces = (int)Math.Round(radius * turn * Math.PI / 180 / stitch);
        return Enumerable.Range(0, pieces + 1).Select(s => Polar(radius, turn * (back ? pieces - s : s) / pieces));
    }

    /// <summary>The row at a part of the way from the upper curve to the lower.</summary>
    private static IEnumerable<Point> Between(double part, bool back) =>
        Enumerable.Range(0, 12).Select(s => (back ? 11 - s : s) / 11.0).Select(t => new Point(38 * t, ((1 - part) * 4 * Math.Sin(3 * t)) + (part * (20 + (4 * Math.Cos(4 * t))))));

    private static Point Polar(double r, double degrees) => new(r * Math.Cos(degrees * Math.PI / 180), r * Math.Sin(degrees * Math.PI / 180));
}
