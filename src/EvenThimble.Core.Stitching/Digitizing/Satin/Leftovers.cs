using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>
/// Places of an area that no throw of its strokes reaches, such as lobes behind a notch: found on cells, so that they can be filled before the satin is sewn.
/// </summary>
internal sealed class Leftovers
{
    // A place this large is filled, mm². In a small shape a smaller one is seen.
    private const double LeastArea = 0.12;
    private const double LeastPart = 0.025;
    private const double Overlap = 0.25;

    // Of a slit between two threads nothing is seen up to twice this, mm.
    private const double Slit = 0.015;
    private readonly Area _area;
    private readonly AreaCells _cells;
    private readonly double _least;
    private readonly bool[] _bare;
    private readonly Lazy<IReadOnlyList<Area>> _places;

    /// <summary>Looks for what throws leave bare, as thread of its true width; throws that are wanted farther apart than that count as closed.</summary>
    /// <param name="area">The area.</param>
    /// <param name="cells">Its cells, all free; they are taken.</param>
    /// <param name="strokes">Its strokes.</param>
    /// <param name="style">How they are thrown.</param>
    public Leftovers(Area area, AreaCells cells, IEnumerable<StrokeRungs> strokes, SatinStyle style)
    {
        (_area, _cells) = (area, cells);
        var half = (Math.Max(Limits.ThreadWidth, style.SpacingMm) / 2) + Slit;
        var run = new List<Point>();
        foreach (var stroke in strokes)
        {
            run.Clear();
            SatinThrows.Add(run, stroke.Closed ? [.. stroke.Rungs, .. stroke.Rungs.Take(1)] : stroke.Rungs, style);
            for (var i = 1; i < run.Count; i++) _cells.TakeThread(run[i - 1], run[i], half);
            for (var i = 1; i < stroke.Rungs.Count; i++)
                if (stroke.Rungs[i - 1].Aside is not null && stroke.Rungs[i].Aside is not null)
                    _cells.TakeThread(stroke.Rungs[i - 1].Out, stroke.Rungs[i].Out, (Limits.ThreadWidth / 2) + Slit);
        }

        _least = Math.Min(LeastArea, LeastPart * area.SquareMm);
        _bare = Bared();
        _places = new(Grown);
    }

    /// <summary>The places, grown a little over the throws beside them.</summary>
    public IReadOnlyList<Area> Places => _places.Value;

    /// <summary>Whether the places are more than a part of the area.</summary>
    public bool AreMoreThan(double part) =>
        _bare.Count(b => b) * _cells.Size * _cells.Size > part * _area.SquareMm;

    /// <summary>The free cells that lie together with enough others.</summary>
    private bool[] Bared()
    {
        var (bare, square) = (new bool[_cells.All.Length], _cells.Size * _cells.Size);
        foreach (var cell in _cells.FreePlaces().Where(p => p.Count * square >= _least).SelectMany(p => p)) bare[cell] = true;
        return bare;
    }

    private IReadOnlyList<Area> Grown()
    {
        if (!_bare.Contains(true)) return [];
        var rings = CellOutlines.Of(_cells.Columns, _cells.Rows, i => _bare[i], _cells.Middle(0), _cells.Size);
        return [.. Region.OfTraced(rings, _cells.Size / 2).Grown(Overlap).Within(_area).Areas.Where(p => p.SquareMm > _least)];
    }
}
