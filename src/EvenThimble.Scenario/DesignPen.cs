using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing;
using EvenThimble.Core.Digitizing.Fill;
using EvenThimble.Core.Digitizing.Lines;
using EvenThimble.Core.Digitizing.Satin;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Threads;

namespace EvenThimble.Scenario;

/// <summary>Draws a design stitch by stitch: takes threads, ties in and off, trims, and lays underlay before what covers it.</summary>
public sealed class DesignPen
{
    private const double RailCompensation = 0.15;
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
        var near = _sewing && _records.Needle.DistanceTo(points[0]) <= Limits.TrimOver;
        if (!near)
        {
            TieOffAndTrim();
            _records.Jump(points[0]);
            _records.Stitch(points[0]);
            Ties.Tie(_records, points[0], points[1]);
        }

        foreach (var p in near ? points : points.Skip(1))
            if (_records.Needle.DistanceTo(p) >= 0.1)
                _records.Stitch(p);
        _sewing = true;
    }

    /// <summary>A run along a line.</summary>
    public void Run(IReadOnlyList<Point> line, double stitch = Limits.RunStitch) => Sew(RunLine.Along(line, stitch));

    /// <summary>Each stitch of a run three times, forward, back and forward.</summary>
    public void TripleRun(IReadOnlyList<Point> line, double stitch = Limits.RunStitch) => Sew(RunLine.Tripled(RunLine.Along(line, stitch)));

    /// <summary>Satin between rails over a centre run and a zigzag.</summary>
    public void Satin(IReadOnlyList<Point> left, IReadOnlyList<Point> right, double spacing = Limits.SatinSpacing) =>
        Sew(SatinRails.Sew(left, right, new(spacing, RailCompensation) { Underlay = [Underlay.Zigzag] }));

    /// <summary>A shape in what suits it, on a cloth.</summary>
    public void Shape(DrawnShape shape, StitchSettings settings, ClothProfile cloth)
    {
        foreach (var run in Digitizer.Runs(shape, settings, cloth)) Sew(run);
    }

    /// <summary>Satin of a width (mm, by the part of the way) along the middle line.</summary>
    public void SatinAlong(IReadOnlyList<Point> middle, Func<double, double> width, bool closed = false) =>
        Satin(Polylines.Offset(middle, t => width(t) / 2, closed), Polylines.Offset(middle, t => -width(t) / 2, closed));

    /// <summary>Fill of rings over a light fill that crosses it.</summary>
    public void Fill(IReadOnlyList<IReadOnlyList<Point>> rings, double angle, double spacing = Limits.FillSpacing, double stitch = Limits.FillStitch)
    {
        foreach (var area in Area.Of(rings))
            Sew(FillSewing.Sew(area, new RowFill(angle) { SpacingMm = spacing, StitchMm = stitch, CompensationMm = Limits.PullCompensation }, [Underlay.Edge, Underlay.Light]));
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
        Ties.Tie(_records, needle, back);
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
}
