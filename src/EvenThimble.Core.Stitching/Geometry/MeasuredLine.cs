namespace EvenThimble.Core.Geometry;

/// <summary>A line of points on which places are found by how far along they lie, mm.</summary>
public sealed class MeasuredLine
{
    private readonly double[] _along;

    /// <summary>A line of at least two points.</summary>
    public MeasuredLine(Point[] points)
    {
        (Points, _along) = (points, new double[points.Length]);
        for (var i = 1; i < points.Length; i++) _along[i] = _along[i - 1] + points[i].DistanceTo(points[i - 1]);
    }

    /// <summary>Its points.</summary>
    public Point[] Points { get; }

    /// <summary>Its length.</summary>
    public double Length => _along[^1];

    /// <summary>How far along a point of it lies.</summary>
    public double AlongAt(int point) => _along[point];

    /// <summary>The place at a distance along it.</summary>
    public Point PointAt(double at)
    {
        var i = Segment(at);
        var step = _along[i + 1] - _along[i];
        return Points[i].Toward(Points[i + 1], step < 1e-12 ? 0 : Math.Clamp((at - _along[i]) / step, 0, 1));
    }

    /// <summary>How far along the place of it lies that is nearest to a place.</summary>
    public double Nearest(Point place)
    {
        var (best, nearest) = (0.0, double.PositiveInfinity);
        for (var i = 0; i + 1 < Points.Length; i++)
        {
            var d = Points[i + 1] - Points[i];
            var t = Math.Clamp((place - Points[i]).Dot(d) / Math.Max(d.Dot(d), 1e-12), 0, 1);
            var distance = Points[i].Toward(Points[i + 1], t).DistanceTo(place);
            if (distance < nearest) (best, nearest) = (_along[i] + (t * d.Length), distance);
        }

        return best;
    }

    /// <summary>The line between two distances along it, from the first to the second.</summary>
    public List<Point> Between(double from, double to)
    {
        var line = new List<Point> { PointAt(from) };
        if (from <= to)
        {
            for (var i = 0; i < Points.Length; i++)
                if (_along[i] > from && _along[i] < to)
                    line.Add(Points[i]);
        }
        else
        {
            for (var i = Points.Length - 1; i >= 0; i--)
                if (_along[i] < from && _along[i] > to)
                    line.Add(Points[i]);
        }

        line.Add(PointAt(to));
        return line;
    }

    private int Segment(double at)
    {
        var i = Array.BinarySearch(_along, at);
        if (i < 0) i = ~i - 1;
        return Math.Clamp(i, 0, _along.Length - 2);
    }
}
