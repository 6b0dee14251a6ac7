using EvenThimble.Core.Digitizing.Fill;
using EvenThimble.Core.Digitizing.Lines;
using EvenThimble.Core.Digitizing.Satin;
using EvenThimble.Core.Geometry;
using NetTopologySuite.Densify;
using NetTopologySuite.Geometries;
using Point = EvenThimble.Core.Geometry.Point;
using Plane = NetTopologySuite.Geometries.Geometry;

namespace EvenThimble.Core.Digitizing;

/// <summary>
/// One connected area in what suits the width of each place: fill where it is wide, satin where it is narrow. The wide places and the arms between them are visited as a
/// tree, so that ways are always covered by what is sewn last.
/// </summary>
internal sealed class MixedSewing(Polygon area, RowFill rows, IReadOnlyList<Underlay> fillUnderlay, SatinStyle satin)
{
    // What remains when all wide places are taken away is an arm if it reaches this many widest throws beyond them; else it is a corner.
    private const double ShortestArm = 0.75;

    // Arms reach this far into the wide places, so that no gap opens between.
    private const double Overlap = 0.5;

    private sealed record Place(Polygon Area, bool IsWide)
    {
        public List<int> Touches { get; } = [];
    }

    private readonly List<Point> _run = [];
    private readonly List<Place> _places = [];
    private RowSections? _ways;
    private bool[] _sewn = [];

    public List<Point> Sew(Point? start, Point? end)
    {
        Divide();
        if (_places.Count == 1) return _places[0].IsWide ? FillSewing.Sew(area, rows, fillUnderlay, start, end) : SatinSewing.Sew(area, satin, start, end);
        _ways = new(area, 0, Craft.FillSpacing);
        _sewn = new bool[_places.Count];
        var root = end is { } e ? Nearest(e) : Enumerable.Range(0, _places.Count).MaxBy(i => _places[i].Area.Area);
        if (start is { } s) _run.Add(s);
        Visit(root, end);
        return _run;
    }

    private void Divide()
    {
        var half = satin.LongestThrow / 2;
        var wide = Area.Polygons(Area.Grown(Area.Grown(area, -half), half)).ToList();
        if (wide.Count > 0)
        {
            Plane all = area.Factory.CreateMultiPolygon([.. wide]);
            var arms = Area.Polygons(area.Difference(Area.Grown(all, 0.02)))
                .Where(p => Densifier.Densify(p, 1).Coordinates.Max(c => all.Distance(new NetTopologySuite.Geometries.Point(c))) > ShortestArm * satin.LongestThrow)
                .ToList();
            if (arms.Count > 0)
            {
                var armsTogether = area.Factory.CreateMultiPolygon([.. arms]).Buffer(0);
                foreach (var p in Area.Polygons(area.Difference(armsTogether)).Where(p => p.Area > 1)) _places.Add(new(p, true));
                foreach (var arm in arms)
                    if (Area.Polygons(area.Intersection(Area.Grown(arm, Overlap))).MaxBy(p => p.Area) is { } grown)
                        _places.Add(new(grown, false));
                for (var i = 0; i < _places.Count; i++)
                    for (var j = 0; j < _places.Count; j++)
                        if (_places[i].IsWide != _places[j].IsWide && _places[i].Area.Intersects(_places[j].Area))
                            _places[i].Touches.Add(j);
                return;
            }
        }

        _places.Add(new(area, wide.Count > 0));
    }

    private int Nearest(Point to)
    {
        var place = new NetTopologySuite.Geometries.Point(to.X, to.Y);
        return Enumerable.Range(0, _places.Count).MinBy(i => _places[i].Area.Distance(place));
    }

    /// <summary>Sews a place and all beyond it, ending near a wanted point.</summary>
    private void Visit(int number, Point? end)
    {
        _sewn[number] = true;
        var here = _places[number];
        foreach (var next in here.Touches)
        {
            if (_sewn[next]) continue;
            var door = Door(here.Area, _places[next].Area);
            Go(door);
            Visit(next, door);
        }

        var last = _run.Count > 0 ? _run[^1] : (Point?)null;
        FillSewing.Append(_run, here.IsWide ? FillSewing.Sew(here.Area, rows, fillUnderlay, last, end) : SatinSewing.Sew(here.Area, satin, last, end));
    }

    /// <summary>A place inside what two neighbours share.</summary>
    private static Point Door(Polygon a, Polygon b)
    {
        var shared = a.Intersection(b);
        var inside = Area.Polygons(shared).MaxBy(p => p.Area) is { } polygon ? polygon.InteriorPoint.Coordinate : shared.Coordinates.FirstOrDefault() ?? b.InteriorPoint.Coordinate;
        return new(inside.X, inside.Y);
    }

    private void Go(Point to)
    {
        if (_run.Count > 0) FillSewing.Append(_run, RunLine.Along(_ways!.Way(_run[^1], to)));
    }
}
