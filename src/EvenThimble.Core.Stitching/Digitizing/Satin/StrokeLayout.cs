using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing.Fill;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>
/// Lays the strokes of an area out on its ground: those that run through junctions first, in their full width; then those that end there, which tuck under them by a throw or two.
/// </summary>
internal sealed class StrokeLayout
{
    // By how much a stroke tucks under another: a part of its width, at least and at most, mm.
    private const double TuckOfWidth = 0.15;
    private const double LeastTuck = 0.2;
    private const double MostTuck = 0.4;

    // So far inside the edge a way counts as inside, mm.
    private const double JustInside = 0.05;

    private readonly Lazy<Leftovers> _bare;
    private readonly Lazy<RowSections> _ways;
    private readonly Lazy<AreaCells> _cells;
    private readonly double _compensation;

    private StrokeLayout(Area area, List<StrokeRungs> strokes, Walls outline, Lazy<AreaCells> cells, SatinStyle style)
    {
        (Strokes, Outline, _compensation, _cells) = (strokes, outline, style.CompensationMm, cells);
        (_bare, _ways) = (new(() => new(area, Cells(), strokes, style)), new(() => new(area, 0, Limits.FillSpacing)));
    }

    /// <summary>The strokes with their rungs.</summary>
    public List<StrokeRungs> Strokes { get; }

    /// <summary>The outlines of the area.</summary>
    public Walls Outline { get; }

    /// <summary>The places that no throw reaches.</summary>
    public Leftovers Bare => _bare.Value;

    /// <summary>The sections of the area, in which ways are found.</summary>
    public RowSections Ways => _ways.Value;

    /// <summary>The cells of the area, all free.</summary>
    public AreaCells Cells() => _cells.Value.Copy();

    /// <summary>The strokes of an area with their rungs.</summary>
    public static StrokeLayout Of(Area area, SatinStyle style)
    {
        var (outline, terminals, cells) = (Walls.Of(area), new Terminals(area), new Lazy<AreaCells>(() => new(area)));
        var strokes = StrokeFinder.Find(area, outline);
        var laid = strokes.ConvertAll(s => StrokeRungs.Of(s, outline, terminals, style));
        if (strokes.Exists(s => s.Start.Tucks || s.End.Tucks))
        {
            var ground = cells.Value.Copy();
            foreach (var stroke in laid) stroke.Take(ground, TuckUnder(stroke, style));
            foreach (var i in OwnersFirst(strokes, laid)) laid[i].Tuck(ground, TuckUnder(laid[i], style));
        }

        FineStrokes.Draw(laid, style);
        return new(area, laid, outline, cells, style);
    }

    /// <summary>Whether the straight way lies inside; it may begin at the end of a throw, which compensation takes a little over the edge.</summary>
    public bool IsStraight(Point from, Point to)
    {
        var (length, direction) = (from.DistanceTo(to), (to - from).Unit());
        if (Outline.Leave(from, direction) is { } wall) return wall >= length;
        if (Outline.Hit(from, direction) is not { } edge || edge >= length) return true;
        return edge <= _compensation + JustInside && (edge + JustInside >= length || Outline.Leave(from + (direction * (edge + JustInside)), direction) + edge + JustInside >= length);
    }

    /// <summary>By how much others tuck under a stroke, mm: its throws are not lengthened there, and cloth that pulls in more needs more.</summary>
    private static double TuckUnder(StrokeRungs stroke, SatinStyle style) =>
        Math.Clamp(stroke.Width * TuckOfWidth, LeastTuck, MostTuck) + Math.Max(0, style.CompensationMm - Limits.PullCompensation);

    /// <summary>Each stroke after those that it tucks under; where they tuck under each other, the one with fewer such ends first, then the longer.</summary>
    private static IEnumerable<int> OwnersFirst(List<Stroke> strokes, List<StrokeRungs> laid)
    {
        var order = Enumerable.Range(0, strokes.Count).OrderBy(i => (strokes[i].Start.Tucks ? 1 : 0) + (strokes[i].End.Tucks ? 1 : 0)).ThenByDescending(i => laid[i].Length).ToList();
        var done = new bool[strokes.Count];
        while (order.Count > 0)
        {
            var next = order.FindIndex(i => IsReady(strokes[i].Start, i) && IsReady(strokes[i].End, i));
            var stroke = order[Math.Max(0, next)];
            order.RemoveAt(Math.Max(0, next));
            done[stroke] = true;
            yield return stroke;
        }

        bool IsReady(StrokeEnd end, int own) => !end.Tucks || end.Other == own || done[end.Other];
    }
}
