using EvenThimble.Core.Geometry;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Hoopings;

/// <summary>How a plan could lie in a field: turned, or smaller. Only the outermost needle points are looked at; where they fit, all do.</summary>
public sealed class FieldFit
{
    private const double StepDegrees = 0.1;
    private const double Smallest = 0.05;

    // What is re-spaced keeps its pull compensation, which does not shrink with it, mm on each side.
    private const double SpareMm = 0.6;
    private readonly IReadOnlyList<Point> _outermost;

    /// <summary>Of a plan.</summary>
    public FieldFit(SewingPlan plan)
    {
        var b = plan.Bounds;
        var records = plan.Records;
        _outermost = b.IsEmpty ? [] : Hull.Outline(Enumerable.Range(0, records.Count).Where(i => records.Kinds[i] == StitchKind.Stitch).Select(records.At));
        if (_outermost.Count == 0 && !b.IsEmpty) _outermost = [new(b.MinX, b.MinY), new(b.MaxX, b.MinY), new(b.MaxX, b.MaxY), new(b.MinX, b.MaxY)];
        Middle = b.Middle;
    }

    /// <summary>The middle of the plan, mm.</summary>
    public Point Middle { get; }

    /// <summary>Whether it fits when it is turned clockwise so far and centred.</summary>
    public bool Fits(HoopField field, double degrees = 0) => Fits(field, degrees, 1, 0);

    /// <summary>The smallest turn (degrees clockwise, below 0 the other way) with which it fits when it is centred; null where none does.</summary>
    public double? SmallestTurn(HoopField field)
    {
        for (var n = 1; n * StepDegrees <= 90 + 1e-9; n++)
        {
            foreach (var side in new[] { 1, -1 })
            {
                if (!Fits(field, side * n * StepDegrees)) continue;
                var (not, fits) = ((n - 1) * StepDegrees, n * StepDegrees);
                while (fits - not > 0.005)
                    if (Fits(field, side * (not + fits) / 2)) fits = (not + fits) / 2;
                    else not = (not + fits) / 2;
                var rounded = Math.Ceiling(fits * 100) / 100;
                return side * (Fits(field, side * rounded) ? rounded : n * StepDegrees);
            }
        }

        return null;
    }

    /// <summary>The largest size, as a part of its own, at which it fits unturned and centred; null where that would be next to nothing.</summary>
    public double? LargestSize(HoopField field)
    {
        var (fits, not) = (0.0, 1.0);
        while (not - fits > 1e-4)
            if (Fits(field, 0, (fits + not) / 2, SpareMm)) fits = (fits + not) / 2;
            else not = (fits + not) / 2;
        return fits < Smallest ? null : Math.Floor(fits * 1000) / 1000;
    }

    /// <summary>The middle of the plan when it is turned about its middle, mm.</summary>
    public Point MiddleTurned(double degrees) => Box.Around(_outermost.Select(p => p.Turned(degrees, Middle))).Middle;

    private bool Fits(HoopField field, double degrees, double size, double spare)
    {
        var turned = degrees == 0 ? _outermost : [.. _outermost.Select(p => p.Turned(degrees, Middle))];
        var middle = Box.Around(turned).Middle;
        foreach (var p in turned)
        {
            var at = (p - middle) * size;
            if (!field.Holds(at + new Point(Math.Sign(at.X) * spare, Math.Sign(at.Y) * spare))) return false;
        }

        return true;
    }
}
