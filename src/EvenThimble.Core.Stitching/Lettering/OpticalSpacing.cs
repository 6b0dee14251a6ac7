using System.Collections.Concurrent;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;

namespace EvenThimble.Core.Lettering;

/// <summary>
/// Sets letters of a font apart so that the white between any two is as large as between two straight ones (HH, or nn where one has no more than a small letter's height).
/// The white is what lies between their facing edges, counted into a letter no deeper than the eye does. It remembers pairs, and may be used by several threads.
/// </summary>
public sealed class OpticalSpacing
{
    private const int Rows = 48;

    // The eye counts the white inside a letter (as of C or L) so deep, in gaps between the stems of HH: fonts that stand wide are looked into deeper.
    private const double Depth = 0.67;
    private const double UsualGap = 0.24;

    // Letters are moved by no more than this, in heights of their zone.
    private const double MostMoved = 0.35;

    // Letters of a script touch: what lies nearer than this, em, is not moved.
    private const double Touching = 0.004;

    // Letters reach no farther above and below the baseline than this, em.
    private const double Reach = 1.2;
    private readonly ILetterFont _font;
    private readonly ConcurrentDictionary<int, Profile> _profiles = [];
    private readonly ConcurrentDictionary<(int, int), double> _pairs = [];
    private readonly double _depthEm;
    private readonly Zone _tall;
    private readonly Zone _small;

    /// <summary>The spacing of a font.</summary>
    public OpticalSpacing(ILetterFont font)
    {
        _font = font;

        // Between stems all white counts, however deep.
        _depthEm = font.CapitalEm;
        var stems = ZoneOf(font.CapitalEm, "HH");
        _depthEm = Depth * (stems.White > 0 ? stems.White / font.CapitalEm : UsualGap * font.CapitalEm);
        _tall = ZoneOf(font.CapitalEm, "HH");
        _small = ZoneOf(font.SmallEm, "nn");
    }

    /// <summary>How two glyphs that follow each other are to be moved apart, em; below 0: together.</summary>
    /// <param name="left">The left one's number.</param>
    /// <param name="right">The right one's.</param>
    /// <param name="advanceEm">From the left one's origin to the right one's, as it is.</param>
    public double Between(int left, int right, double advanceEm)
    {
        if (_pairs.TryGetValue((left, right), out var known)) return known - advanceEm;
        var (a, b) = (ProfileOf(left), ProfileOf(right));
        var wanted = advanceEm;
        if (!a.IsEmpty && !b.IsEmpty && Nearest(a, b, advanceEm) > Touching)
        {
            var zone = IsTall(a) && IsTall(b) ? _tall : _small;
            if (zone.White > 0 && WhiteOf(a, b, zone.HeightEm) is { } white)
                wanted = Apart(a, b, Math.Clamp(((zone.White - white) / zone.HeightEm) + a.Right - b.Left, advanceEm - (MostMoved * zone.HeightEm), advanceEm + (MostMoved * zone.HeightEm)));
        }

        _pairs[(left, right)] = wanted;
        return wanted - advanceEm;
    }

    private double Apart(Profile a, Profile b, double advanceEm) =>
        _font.LeastGapEm is > 0 and var least && Nearest(a, b, advanceEm) is var nearest && nearest < least ? advanceEm + least - nearest : advanceEm;

    private Zone ZoneOf(double heightEm, string pair)
    {
        var shaped = _font.Shape(pair);
        if (heightEm <= 0 || shaped.Missing.Count > 0 || shaped.Glyphs.Count != 2) return new(heightEm, 0);
        var (a, b) = (ProfileOf(shaped.Glyphs[0].Glyph), ProfileOf(shaped.Glyphs[1].Glyph));
        if (a.IsEmpty || b.IsEmpty || WhiteOf(a, b, heightEm) is not { } white) return new(heightEm, 0);
        return new(heightEm, white + ((shaped.Glyphs[0].AdvanceEm + b.Left - a.Right) * heightEm));
    }

    private bool IsTall(Profile p) => p.Top < -(_font.SmallEm + _font.CapitalEm) / 2;

    /// <summary>White that lies within the two letters themselves, beside their facing edges, if these were on one line; em².</summary>
    private double? WhiteOf(Profile a, Profile b, double heightEm)
    {
        var (white, faced) = (0.0, false);
        for (var row = 0; row < Rows; row++)
        {
            var y = -heightEm * (row + 0.5) / Rows;
            var (inA, inB) = (a.RightAt(y), b.LeftAt(y));
            faced |= inA is not null || inB is not null;
            white += Math.Min(a.Right - (inA ?? double.NegativeInfinity), _depthEm) + Math.Min((inB ?? double.PositiveInfinity) - b.Left, _depthEm);
        }

        return faced ? white * heightEm / Rows : null;
    }

    /// <summary>How near the two come to each other in a row, em.</summary>
    private static double Nearest(Profile a, Profile b, double advanceEm)
    {
        var nearest = double.PositiveInfinity;
        for (var y = -Reach; y <= Reach; y += 2 * Reach / (2 * Rows))
            if (a.RightAt(y) is { } right && b.LeftAt(y) is { } left)
                nearest = Math.Min(nearest, advanceEm + left - right);
        return nearest;
    }

    private Profile ProfileOf(int glyph) => _profiles.GetOrAdd(glyph, g => new(_font.Outline(g), _font.PenEm ?? 0));

    private readonly record struct Zone(double HeightEm, double White);

    /// <summary>The left and right edges of a glyph by height.</summary>
    private sealed class Profile
    {
        // Outlines are flattened at this many mm to the em, near enough for any letter.
        private const double Unit = 30;
        private readonly List<(Point A, Point B)> _edges = [];

        public Profile(DrawnShape glyph, double penEm)
        {
            (Left, Right, Top) = (double.PositiveInfinity, double.NegativeInfinity, double.PositiveInfinity);
            foreach (var (outline, closed) in glyph.Moved(p => p * Unit).Paths.Select(p => (p.Flattened(), p.Closed)))
            {
                for (var i = 0; i < (closed ? outline.Count : outline.Count - 1); i++)
                {
                    var (a, b) = (outline[i] / Unit, outline[(i + 1) % outline.Count] / Unit);
                    if (closed) Add(a, b);
                    else AddDrawn(a, b, penEm / 2);
                }
            }
        }

        public double Left { get; private set; }

        public double Right { get; private set; }

        public double Top { get; private set; }

        public bool IsEmpty => _edges.Count == 0;

        public double? LeftAt(double y) => Crossings(y) is { Count: > 0 } at ? at.Min() : null;

        public double? RightAt(double y) => Crossings(y) is { Count: > 0 } at ? at.Max() : null;

        private void Add(Point a, Point b)
        {
            _edges.Add((a, b));
            (Left, Right, Top) = (Math.Min(Left, a.X), Math.Max(Right, a.X), Math.Min(Top, a.Y));
        }

        /// <summary>The four sides of what a pen leaves on its way.</summary>
        private void AddDrawn(Point a, Point b, double half)
        {
            var (on, aside) = ((b - a).Unit() * half, (b - a).Unit().Normal() * half);
            Point[] sides = [a - on - aside, b + on - aside, b + on + aside, a - on + aside];
            for (var k = 0; k < sides.Length; k++) Add(sides[k], sides[(k + 1) % sides.Length]);
        }

        private List<double> Crossings(double y) =>
            [.. _edges.Where(e => e.A.Y <= y != e.B.Y <= y).Select(e => e.A.X + ((y - e.A.Y) / (e.B.Y - e.A.Y) * (e.B.X - e.A.X)))];
    }
}
