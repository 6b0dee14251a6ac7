using System.Collections.Immutable;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Monograms;

/// <summary>A monogram as it is laid, about its middle, mm.</summary>
/// <param name="Letters">Its letters, in their order.</param>
/// <param name="Frame">What is around them.</param>
/// <param name="CapitalMm">The height of the highest letter.</param>
/// <param name="Outline">The outline that the letters fill, or that lies about them.</param>
public sealed record LaidMonogram(ImmutableArray<(string Text, DrawnShape Outline)> Letters, ImmutableArray<FramePiece> Frame, double CapitalMm, ImmutableArray<Point> Outline)
{
    /// <summary>The rectangle about all of it.</summary>
    public Box Box { get; } = Letters.Aggregate(Geometry.Box.Around(Frame.SelectMany(f => f.Ink)), (box, l) => box.With(l.Outline.Bounds));
}

/// <summary>Lays monograms: letters shaped to an outline or put together, a frame around them at its distance, all of it as large as wanted.</summary>
public sealed class MonogramLaying
{
    // Letters smaller than this are no monogram, mm.
    private const double SmallestLetters = 5;
    private const double CloseEnough = 0.01;
    private const int MostTries = 12;

    // Where threads cross, the lower one is left out so far on either side of the upper, as part of the letters' size.
    private const double Clear = 0.025;
    private const double SmallOfLarge = 0.62;
    private const double Overlapping = 0.36;
    private const double Staggered = 0.14;

    // Curves are flattened, and areas cut, at this many mm to the em.
    private const double FlattenedAt = 150;
    private readonly MonogramWish _wish;
    private readonly List<(string Text, DrawnShape Outline)> _letters;
    private readonly IReadOnlyList<Point> _outline;

    private readonly FrameLaying? _around;

    private MonogramLaying(MonogramWish wish, ILetterFont font, MotifCounts? counts)
    {
        (_wish, _around) = (wish, wish.Frame is { } frame ? new(frame, wish.Form == FrameForm.AsLetters && wish.Layout.Ground is null ? wish.Layout.FreeForm : wish.Form, wish.FrameGapMm) { Counts = counts } : null);
        var glyphs = wish.Letters.Select(l => (l, GlyphOf(l, font))).ToList();
        (_letters, _outline) = wish.Layout.Ground is { } ground ? Shaped(glyphs, ground) : Put(glyphs);
    }

    /// <summary>Lays a monogram.</summary>
    /// <param name="wish">What is wanted.</param>
    /// <param name="font">In which font.</param>
    /// <param name="counts">How many motifs its frame had, where that may be held.</param>
    /// <exception cref="EditRefusedException">It cannot be laid; a sentence.</exception>
    public static LaidMonogram Of(MonogramWish wish, ILetterFont font, MotifCounts? counts = null)
    {
        wish.Check();
        return new MonogramLaying(wish, font, counts).Sized();
    }

    /// <summary>All of it as large as wanted: how large the letters are then is found by trying.</summary>
    private LaidMonogram Sized()
    {
        var letters = _wish.Frame is null ? _wish.SizeMm : Math.Max(_wish.SizeMm - (2 * _wish.FrameGapMm) - 6, SmallestLetters);
        for (var i = 0; ; i++)
        {
            var laid = At(letters);
            var more = _wish.SizeMm - Math.Max(laid.Box.Width, laid.Box.Height);
            if (Math.Abs(more) < CloseEnough || i == MostTries) return Fitted(laid);
            if (letters + more < SmallestLetters)
            {
                throw new EditRefusedException(_wish.Frame is null ? $"Letters smaller than {SmallestLetters:0} mm are no monogram. Make it larger."
                    : "At this size the frame leaves no room for letters. Make it larger, or the distance between letters and frame smaller.");
            }

            letters += more;
        }
    }

    /// <summary>About its middle, and the hair smaller or larger that is left where one motif more or less makes the size leap.</summary>
    private LaidMonogram Fitted(LaidMonogram laid)
    {
        for (var (times, i) = (1.0, 0); ; i++)
        {
            var by = times;
            Point Moved(Point p) => (p - laid.Box.Middle) * by;
            var fitted = new LaidMonogram(
                [.. laid.Letters.Select(l => (l.Text, l.Outline.Moved(Moved)))], [.. laid.Frame.Select(f => f with { Shape = f.Shape.Moved(Moved) })], laid.CapitalMm * by, [.. laid.Outline.Select(Moved)]);
            var longest = Math.Max(fitted.Box.Width, fitted.Box.Height);
            if (Math.Abs(_wish.SizeMm - longest) < CloseEnough || i == MostTries) return fitted;
            times *= _wish.SizeMm / longest;
        }
    }

    /// <summary>All of it with letters whose longer side is so long, mm.</summary>
    private LaidMonogram At(double size)
    {
        ImmutableArray<(string Text, DrawnShape Outline)> letters = [.. _letters.Select(l => (l.Text, l.Outline.Moved(p => p * size)))];
        ImmutableArray<Point> outline = [.. _outline.Select(p => p * size)];
        return new(letters, _around is null ? [] : [.. _around.Of([.. outline])], letters.Max(l => l.Outline.Bounds.Height), outline);
    }

    private static DrawnShape GlyphOf(string letter, ILetterFont font)
    {
        var shaped = font.Shape(letter);
        if (shaped.Missing.Count > 0) throw new EditRefusedException($"{font.Name} has no {string.Join(' ', shaped.Missing)}. Choose another font, or another letter.");
        var (paths, pen) = (ImmutableArray.CreateBuilder<ShapePath>(), Point.Zero);
        foreach (var glyph in shaped.Glyphs)
        {
            var at = pen + glyph.Offset;
            paths.AddRange(font.Outline(glyph.Glyph).Moved(p => p + at).Paths);
            pen += new Point(glyph.AdvanceEm + glyph.KernEm, 0);
        }

        if (paths.Count == 0) throw new EditRefusedException($"{font.Name} draws nothing for “{letter}”. Choose another font, or another letter.");

        // Curves become lines here, at a size at which these are fine: all that follows bends them anyway. What a pen draws becomes the outline of its strokes.
        var fine = new DrawnShape(paths.ToImmutable()).Moved(p => p * FlattenedAt);
        IEnumerable<IReadOnlyList<Point>> rings = font.PenEm is { } width
            ? Area.Of(fine.Paths.SelectMany(p => LineBand.Of(p.Closed ? [.. p.Flattened(), p.Nodes[0].At] : p.Flattened(), p.Closed, width * FlattenedAt)).SelectMany(a => a.Rings), Inside.AnyWinding).SelectMany(a => a.Rings)
            : fine.Paths.Where(p => p.Closed).Select(p => p.Flattened());
        return new([.. rings.Select(r => ShapePath.Through(r.Select(q => q / FlattenedAt), closed: true))], font.PenEm is null ? Inside.AnyWinding : Inside.OddCrossings);
    }

    /// <summary>Letters beside each other that fill an outline together.</summary>
    private (List<(string Text, DrawnShape Outline)> Letters, IReadOnlyList<Point> Outline) Shaped(List<(string Text, DrawnShape Glyph)> glyphs, MonogramGround ground)
    {
        var half = ground.Box.Width / 2;
        double[] between = glyphs.Count switch { 1 => [], 2 => [0], _ => [-half * 0.35, half * 0.35] };
        var letters = glyphs.Select((g, i) =>
        {
            var (from, to) = (i == 0 ? -ground.CornerX : between[i - 1] + (_wish.LetterGap / 2), i == glyphs.Count - 1 ? ground.CornerX : between[i] - (_wish.LetterGap / 2));
            IReadOnlyList<Point> Edge(bool upper) => [.. Enumerable.Range(0, 49).Select(k => ground.Edge(from + ((to - from) * k / 48), upper))];
            var (head, foot) = (Edge(upper: true), Edge(upper: false));
            return (g.Text, new LetterPatch(head, foot, i == 0 ? ground.Side(right: false) : [head[0], foot[0]], i == glyphs.Count - 1 ? ground.Side(right: true) : [head[^1], foot[^1]]).Filled(g.Glyph));
        }).ToList();
        return (letters, ground.Outline);
    }

    /// <summary>Letters in their own form, put together; the outline is the rectangle's and corners' hull about them.</summary>
    private (List<(string Text, DrawnShape Outline)> Letters, IReadOnlyList<Point> Outline) Put(List<(string Text, DrawnShape Glyph)> glyphs)
    {
        // Each letter of height 1 about its own middle.
        var ones = glyphs.ConvertAll(g => (g.Text, Outline: g.Glyph.Bounds is var b ? g.Glyph.Moved(p => (p - b.Middle) / Math.Max(b.Height, 1e-9)) : g.Glyph));
        var letters = _wish.Layout.Free switch
        {
            FreeLaying.LargeMiddle => Row(ones, i => ones.Count == 3 && i != 1 ? SmallOfLarge : 1),
            FreeLaying.Stacked => Column(ones),
            FreeLaying.Pillar when ones.Count == 3 => Pillar(ones),
            FreeLaying.Interlocked => Interlocked(ones),
            _ => Row(ones, _ => 1),
        };
        var box = letters.Aggregate(Box.Empty, (all, l) => all.With(l.Outline.Bounds));
        letters = letters.ConvertAll(l => (l.Text, l.Outline.Moved(p => (p - box.Middle) / Math.Max(box.Width, box.Height))));
        return (letters, Hull.Outline(letters.SelectMany(l => l.Outline.Paths).SelectMany(p => p.Nodes.Length > 0 ? p.Flattened() : [])));
    }

    private List<(string Text, DrawnShape Outline)> Row(List<(string Text, DrawnShape Outline)> ones, Func<int, double> size)
    {
        var right = 0.0;
        return ones.Select((l, i) =>
        {
            var sized = l.Outline.Moved(p => p * size(i));
            var at = right - sized.Bounds.MinX + (i == 0 ? 0 : Math.Max(_wish.LetterGap, 0.01) * 2);
            right = at + sized.Bounds.MaxX;
            return (l.Text, sized.Moved(p => new(p.X + at, p.Y)));
        }).ToList();
    }

    private List<(string Text, DrawnShape Outline)> Column(List<(string Text, DrawnShape Outline)> ones) =>
        ones.Select((l, i) => (l.Text, l.Outline.Moved(p => new(p.X, p.Y + (i * (1 + (2 * Math.Max(_wish.LetterGap, 0.01)))))))).ToList();

    /// <summary>The last letter as high as the two others below each other.</summary>
    private List<(string Text, DrawnShape Outline)> Pillar(List<(string Text, DrawnShape Outline)> ones)
    {
        var gap = 2 * Math.Max(_wish.LetterGap, 0.01);
        var small = ones.Take(2).Select((l, i) => (l.Text, Outline: l.Outline.Moved(p => (p * ((1 - gap) / 2)) + new Point(0, (i == 0 ? -1 : 1) * (1 + gap) / 4)))).ToList();
        var right = small.Max(l => l.Outline.Bounds.Width) / 2;
        var tall = ones[2].Outline;
        return [.. small, (ones[2].Text, tall.Moved(p => new(p.X + right + gap - tall.Bounds.MinX, p.Y)))];
    }

    /// <summary>Letters that lie over and under each other by turns: where two cross, the lower one is left out beside the upper.</summary>
    private static List<(string Text, DrawnShape Outline)> Interlocked(List<(string Text, DrawnShape Outline)> ones)
    {
        var right = 0.0;
        var letters = ones.Select((l, i) =>
        {
            var at = i == 0 ? -l.Outline.Bounds.MinX : right - (Overlapping * l.Outline.Bounds.Width) - l.Outline.Bounds.MinX;
            right = at + l.Outline.Bounds.MaxX;
            return (l.Text, Outline: l.Outline.Moved(p => new Point(p.X + at, p.Y + (i % 2 == 0 ? -Staggered : Staggered)) * FlattenedAt));
        }).ToList();
        var areas = letters.ConvertAll(l => Area.Of(l.Outline.Paths.Where(p => p.Closed).Select(p => p.Flattened()), l.Outline.Rule).ToList());
        for (var i = 0; i + 1 < areas.Count; i++)
        {
            var shared = areas[i].SelectMany(a => areas[i + 1].SelectMany(b => a.SharedWith(b).Areas)).OrderBy(s => s.Bounds.Middle.Y).ToList();
            for (var k = 0; k < shared.Count; k++)
            {
                var (upper, lower) = k % 2 == 0 ? (i, i + 1) : (i + 1, i);
                var near = shared[k].Grown(3 * Clear * FlattenedAt);
                var cut = areas[upper].SelectMany(a => a.Within(near).Areas).SelectMany(a => a.Grown(Clear * FlattenedAt).Areas).ToList();
                areas[lower] = [.. cut.Aggregate((IEnumerable<Area>)areas[lower], (left, c) => left.SelectMany(a => a.Without(Region.Of([c])).Areas))];
            }
        }

        return [.. letters.Zip(areas, (l, a) => (l.Text, a.Count == 0 ? l.Outline.Moved(p => p / FlattenedAt) : new DrawnShape([.. a.SelectMany(x => x.Rings).Select(r => ShapePath.Through(r.Select(p => p / FlattenedAt), closed: true))], Inside.OddCrossings)))];
    }
}
