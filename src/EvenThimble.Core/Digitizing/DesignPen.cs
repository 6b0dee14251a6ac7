using EvenThimble.Core.Formats;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Digitizing;

/// <summary>Draws a design stitch by stitch: takes threads, ties in and off, trims, and lays underlay before what covers it.</summary>
public sealed class DesignPen
{
    private const double FillUnderlaySpacing = 3.0;
    private const double ZigzagSpacing = 1.6;
    private readonly StitchBuilder _records = new(8192);
    private readonly List<StitchFilePart> _parts = [];
    private (SewingThread Thread, PartRole Role)? _current;
    private int _partStart;
    private bool _sewing;

    /// <summary>Takes a thread; what follows is one part.</summary>
    public void Take(SewingThread thread, PartRole role = PartRole.Decoration)
    {
        ClosePart();
        _current = (thread, role);
    }

    /// <summary>Sews through needle points: from where the needle stands when that is near, else after a trim and a jump, tied in.</summary>
    public void Sew(IReadOnlyList<Point> points)
    {
        if (points.Count < 2) return;
        var near = _sewing && _records.Needle.DistanceTo(points[0]) <= Craft.TrimOver;
        if (!near)
        {
            TieOffAndTrim();
            _records.Jump(points[0]);
            _records.Stitch(points[0]);
            Tie(points[0], points[1]);
        }

        foreach (var p in near ? points : points.Skip(1))
            if (_records.Needle.DistanceTo(p) >= 0.1)
                _records.Stitch(p);
        _sewing = true;
    }

    /// <summary>A run along a line.</summary>
    public void Run(IReadOnlyList<Point> line, double stitch = Craft.RunStitch) => Sew(RunLine.Along(line, stitch));

    /// <summary>Each stitch of a run three times, forward, back and forward.</summary>
    public void TripleRun(IReadOnlyList<Point> line, double stitch = Craft.RunStitch)
    {
        var points = RunLine.Along(line, stitch);
        Sew([points[0], .. points.Skip(1).SelectMany((p, i) => new[] { p, points[i], p })]);
    }

    /// <summary>Satin between rails over a centre run and a zigzag.</summary>
    public void Satin(IReadOnlyList<Point> left, IReadOnlyList<Point> right, double spacing = Craft.SatinSpacing)
    {
        var (a, b) = SatinColumn.Rungs(left, right, 1.5);
        var centre = a.Zip(b, (p, q) => p.Toward(q, 0.5)).ToArray();
        var widest = a.Zip(b, (p, q) => p.DistanceTo(q)).Max();
        Sew(RunLine.Along(centre));
        if (widest > 1.6) Sew(SatinColumn.Zigzag([.. right.Reverse()], [.. left.Reverse()], ZigzagSpacing, Craft.UnderlayInset));
        else Sew(RunLine.Along([.. centre.Reverse()]));
        Sew(SatinColumn.Between(left, right, spacing, 0.15));
    }

    /// <summary>Satin of a width (mm, by the part of the way) along the middle line.</summary>
    public void SatinAlong(IReadOnlyList<Point> middle, Func<double, double> width, bool closed = false) =>
        Satin(Polylines.Offset(middle, t => width(t) / 2, closed), Polylines.Offset(middle, t => -width(t) / 2, closed));

    /// <summary>Fill of rings over a light fill that crosses it.</summary>
    public void Fill(IReadOnlyList<IReadOnlyList<Point>> rings, double angle, double spacing = Craft.FillSpacing, double stitch = Craft.FillStitch)
    {
        var inner = rings.Select(r => Shapes.Inset(r, 0.8)).Where(r => r.Count > 2).ToList();
        if (inner.Count == rings.Count)
            foreach (var run in new RowFill(angle + 90) { Spacing = FillUnderlaySpacing, Stitch = 3.4 }.Of(inner))
                Sew(run);
        foreach (var run in new RowFill(angle) { Spacing = spacing, Stitch = stitch }.Of(rings)) Sew(run);
    }

    /// <summary>Lets the machine wait with a message.</summary>
    public void Stop(string message)
    {
        TieOffAndTrim();
        _records.Stop(message);
    }

    /// <summary>The finished design.</summary>
    public StitchFile Finish(string title)
    {
        ClosePart();
        return new(title, _records.ToBlob(), [.. _parts]);
    }

    private void ClosePart()
    {
        TieOffAndTrim();
        if (_current is { } part && _records.Count > _partStart) _parts.Add(new(_partStart, _records.Count - _partStart, part.Thread, part.Role));
        _partStart = _records.Count;
    }

    private void TieOffAndTrim()
    {
        if (!_sewing) return;
        var (needle, back) = (_records.Needle, BeforeLast());
        Tie(needle, back);
        _records.Trim();
        _sewing = false;
    }

    private Point BeforeLast()
    {
        for (var i = _records.Count - 2; i >= 0; i--)
            if (_records.At(i).DistanceTo(_records.Needle) > 0.2)
                return _records.At(i);
        return _records.Needle + new Point(1, 0);
    }

    /// <summary>Three small stitches toward where the line lies, and back.</summary>
    private void Tie(Point at, Point toward)
    {
        var step = (toward - at).Unit() * Math.Min(Craft.TieStitch, at.DistanceTo(toward));
        _records.Stitch(at + step);
        _records.Stitch(at);
        _records.Stitch(at + step);
        _records.Stitch(at);
    }
}
