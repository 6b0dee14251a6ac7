using System.Collections.Immutable;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;

namespace EvenThimble.Core.Hoopings;

/// <summary>Which hooping a place of the cloth belongs to when nothing speaks against it: that whose middle is nearest, unless a seam drawn by hand says otherwise.</summary>
internal sealed class SeamMap(IReadOnlyList<PlacedField> fields, IReadOnlyList<Seam> drawn)
{
    private readonly List<Seam> _drawn = [.. drawn.Where(s => s.Line.Length >= 2 && s.First >= 0 && s.First < s.Second && s.Second < fields.Count)];

    /// <summary>Whether somebody has drawn a seam.</summary>
    public bool IsDrawn => _drawn.Count > 0;

    /// <summary>The number of the hooping that a place belongs to.</summary>
    public int OwnerOf(Point p)
    {
        var nearest = 0;
        for (var n = 1; n < fields.Count; n++)
            if (Square(p, n) < Square(p, nearest) - 1e-9)
                nearest = n;
        foreach (var seam in _drawn)
            if (nearest == seam.First || nearest == seam.Second)
                nearest = IsBeyond(seam, p) ? seam.Second : seam.First;
        return nearest;
    }

    /// <summary>About how far a place lies from the next seam, mm.</summary>
    public double DistanceToSeam(Point p)
    {
        var (nearest, next) = (double.MaxValue, double.MaxValue);
        var (first, second) = (0, 0);
        for (var n = 0; n < fields.Count; n++)
        {
            var square = Square(p, n);
            if (square < nearest) (nearest, next, first, second) = (square, nearest, n, first);
            else if (square < next) (next, second) = (square, n);
        }

        var apart = fields[first].Centre.DistanceTo(fields[second].Centre);
        var middle = apart < 1e-9 ? 0 : (next - nearest) / (2 * apart);
        foreach (var seam in _drawn)
        {
            if (first != seam.First && first != seam.Second) continue;
            for (var i = 1; i < seam.Line.Length; i++)
            {
                var (a, way) = (seam.Line[i - 1], seam.Line[i] - seam.Line[i - 1]);
                middle = Math.Min(middle, Math.Abs(way.Cross(p - a)) / Math.Max(way.Length, 1e-9));
            }
        }

        return middle;
    }

    /// <summary>The seam between two hoopings as it is: as it was drawn, or straight and half way between their middles, across what both can sew. Null where they do not meet.</summary>
    public ImmutableArray<Point>? LineOf(int first, int second, Box job)
    {
        if (_drawn.Find(s => s.First == first && s.Second == second) is { } own) return own.Line;
        var (a, b) = (fields[first].Centre, fields[second].Centre);
        if (a == b) return null;
        var shared = Common(fields[first].Inner, Common(fields[second].Inner, job.Grown(3)));
        if (shared.IsEmpty) return null;

        // The middle line, clipped to what both can sew, where no third hooping is nearer.
        var (middle, along) = (a.Toward(b, 0.5), (b - a).Normal().Unit());
        var reach = shared.Width + shared.Height + middle.DistanceTo(shared.Middle);
        const int steps = 400;
        var there = Enumerable.Range(0, steps + 1).Select(i => middle + along * (reach * ((2.0 * i / steps) - 1)))
            .Where(p => shared.Grown(1e-6).Holds(p) && Enumerable.Range(0, fields.Count).All(n => n == first || n == second || Square(p, n) >= Square(p, first) - 1e-6)).ToList();
        return there.Count < 2 ? null : [there[0], there[^1]];
    }

    private double Square(Point p, int field) => (p - fields[field].Centre) is var d ? d.Dot(d) : 0;

    /// <summary>Whether a place lies on the later hooping's side of a seam.</summary>
    private bool IsBeyond(Seam seam, Point p)
    {
        var line = seam.Line;
        var (least, side) = (double.MaxValue, 0.0);
        for (var i = 1; i < line.Length; i++)
        {
            var (a, way) = (line[i - 1], line[i] - line[i - 1]);
            if (way.Length < 1e-9) continue;
            var t = (p - a).Dot(way) / way.Dot(way);
            if (i > 1) t = Math.Max(t, 0);
            if (i < line.Length - 1) t = Math.Min(t, 1);
            var distance = p.DistanceTo(a + way * t);
            if (distance < least) (least, side) = (distance, way.Cross(p - a));
        }

        return side * (line[^1] - line[0]).Cross(fields[seam.Second].Centre - fields[seam.First].Centre) > 0;
    }

    private static Box Common(Box a, Box b) =>
        a.Meets(b) ? new(Math.Max(a.MinX, b.MinX), Math.Max(a.MinY, b.MinY), Math.Min(a.MaxX, b.MaxX), Math.Min(a.MaxY, b.MaxY)) : Box.Empty;
}
