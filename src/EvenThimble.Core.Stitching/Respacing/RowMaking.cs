using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing.Satin;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Recognition;

namespace EvenThimble.Core.Respacing;

/// <summary>Rows of fill, or throws with steps between them: their ends follow both edges at their size; needle points within rows follow the pattern they had.</summary>
internal sealed class RowMaking
{
    private const double SuddenlyLonger = 2.0;

    private readonly Remaking _making;
    private readonly Passage _passage;
    private readonly Point[] _left;
    private readonly Point[] _right;
    private readonly Point _along;
    private readonly double _stitch;
    private readonly double _longest;

    // None within throws.
    private readonly RowNeedles? _needles;

    public RowMaking(Remaking making, Passage passage)
    {
        (_making, _passage) = (making, passage);
        var rows = passage.Rungs;
        (_left, _right) = (new Point[rows.Length], new Point[rows.Length]);
        var along = Point.Zero;
        for (var k = 0; k < rows.Length; k++)
        {
            var (a, b) = (making.Sized(rows[k].First), making.Sized(rows[k].Last));
            (_left[k], _right[k]) = k % 2 == 0 ? (a, b) : (b, a);
            along += _right[k] - _left[k];
        }

        _along = along.Unit();
        _stitch = passage.StitchLength > 0.8 ? passage.StitchLength : Limits.FillStitch;
        if (passage.IsUndivided) _longest = making.LongestThrow(passage);
        else _needles = new(making, passage, _along);
    }

    public void Make()
    {
        if (_left.Length == 1)
        {
            Alone();
            return;
        }

        double[] weights = [.. Enumerable.Range(0, _left.Length - 1).Select(k => Growth(k) / _making.Lighter)];
        double[] Times(double[] steps) => [.. weights.Zip(steps, (weight, step) => weight * step)];
        var (left, right) = RowSteps.Of(_left, _right, _passage.SpacingMm * _making.Size.OfLength, _making.Size.OfLength) is var (l, r) ? (Times(l), Times(r)) : (weights, weights);
        RowPlaces.Sew(_making, _passage, left, right, [.. Enumerable.Range(0, weights.Length).Where(k => IsSudden(_left, k) || IsSudden(_right, k))], _stitch, Row);
    }

    /// <summary>A row by itself stands for a strip as broad as rows lie apart; in that as many lie as beside others, and the last ends where it did.</summary>
    private void Alone()
    {
        var count = RowPlaces.Nearest(Growth(0) / _making.Lighter, _making.EndsAnywhere ? null : true, 1);
        for (var k = 0; k < count; k++)
        {
            var place = ((k + 0.5) / count) - 0.5;
            Row(place, place, k % 2 == 0, k);
        }

        if (count % 2 == 0) _making.EndsAcross = true;
    }

    /// <summary>How many times as far apart two rows lie.</summary>
    private double Growth(int k)
    {
        var size = _making.Size;
        if (size.IsEven) return size.Across;

        // Areas grow by the sizing's, and rows by what they do along themselves; the rest is between them.
        var row = _right[k] - _left[k];
        if (row.Length < 1e-6) row = _along;
        return size.OfArea / (row.Length / size.Undo(row).Length);
    }

    private void Row(double leftPlace, double rightPlace, bool rightwards, int number)
    {
        var (left, right) = (Edge(_left, leftPlace, -1), Edge(_right, rightPlace, 1));
        if ((right - left).Dot(_along) <= 0) left = right = left.Toward(right, 0.5); // beyond a tip
        var (from, to) = rightwards ? (left, right) : (right, left);
        var run = _making.Run;
        var length = from.DistanceTo(to);
        if (length < Remaking.Nearest)
        {
            _making.Add(from.Toward(to, 0.5));
            return;
        }

        var way = (to - from).Unit();
        from += way * Math.Min(length, _making.DrawnIn(from, way));
        if (run[^1].DistanceTo(from) >= Limits.ShortestStitch) _making.GoTo(from, _stitch);
        if (_needles is null)
        {
            SatinThrows.Throw(run, to, number, _longest);
            return;
        }

        foreach (var p in _needles.Between(from, to, number, (int)Math.Round((leftPlace + rightPlace) / 2))) _making.Add(p);
        _making.Add(to);
    }

    /// <summary>
    /// A place of an edge, counted in rows. Where rows suddenly become longer (a section begins there, or another shape) the edge is not drawn from one end to the other:
    /// each row has the strip beside it. Outward is 1 for the edge that lies ahead along the rows and -1 for the other; beyond the outermost row that strip may become shorter than the row, never longer.
    /// </summary>
    private Point Edge(Point[] ends, double place, int outward)
    {
        if (ends.Length == 1) return ends[0] + (_along.Normal() * (place * Growth(0) * _passage.SpacingMm));
        var at = Math.Clamp((int)Math.Floor(place), 0, ends.Length - 2);
        var t = place - at;
        var step = _along.Dot(ends[at + 1] - ends[at]);
        var (row, other, part) = t < 0.5 ? (at, at + 1, t) : (at + 1, at, 1 - t);
        var suddenly = IsSudden(ends, at);
        if (part >= 0 && !suddenly) return ends[at].Toward(ends[at + 1], t);
        var longer = suddenly ? 0 : (row == at ? step : -step) * part;
        return ends[row] + (Aside(row, other, suddenly) * part) + (_along * (outward * Math.Min(0, outward * longer)));
    }

    /// <summary>Whether rows suddenly become longer or shorter at an edge, after a row.</summary>
    private bool IsSudden(Point[] ends, int at)
    {
        double Step(int k) => k < 0 || k > ends.Length - 2 ? 0 : Math.Abs(_along.Dot(ends[k + 1] - ends[k]));
        return Step(at) >= SuddenlyLonger + (3 * Math.Max(Step(at - 1), Step(at + 1)));
    }

    /// <summary>The way square from one row to the line of another, no longer than rows usually lie apart; as long as that where the other is suddenly shorter, and says little of how far apart they lie.</summary>
    private Point Aside(int row, int other, bool suddenly)
    {
        var way = _right[row] - _left[row];
        var across = (way.Length < 1e-6 ? _along : way.Unit()).Normal();
        var gap = across.Dot(_left[other].Toward(_right[other], 0.5) - _left[row]);
        var usual = _passage.SpacingMm * _making.Size.OfLength;
        return across * (suddenly ? Math.Sign(gap) * usual : Math.Clamp(gap, -usual, usual));
    }
}
