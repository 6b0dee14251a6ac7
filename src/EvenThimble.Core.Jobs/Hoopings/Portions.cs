using EvenThimble.Core.Geometry;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Hoopings;

/// <summary>Where a plan may be cut in two, those where it shows least first.</summary>
internal enum Cutting : byte
{
    /// <summary>Between two parts.</summary>
    Parts,

    /// <summary>Where the thread is cut or led over.</summary>
    Trims,

    /// <summary>Where a row or a throw ends and the next goes back.</summary>
    Rows,

    /// <summary>At any needle point.</summary>
    Stitches,

    /// <summary>Not at all.</summary>
    Never,
}

/// <summary>Records of a plan that stay in one hooping.</summary>
/// <param name="First">The first; its stitch begins where the one before ends.</param>
/// <param name="End">The one after the last.</param>
/// <param name="Part">The number of the part in the plan.</param>
/// <param name="Fineness">How finely the part was cut to get it, from 0.</param>
/// <param name="Bounds">The rectangle about its needle points, mm.</param>
internal readonly record struct Portion(int First, int End, int Part, int Fineness, Box Bounds);

/// <summary>
/// Takes a plan apart into portions, no finer than is asked for. Rows and stitches that are alike, such as all that lie in one field only, far from the seam, stay together at first.
/// </summary>
internal sealed class Portions
{
    private const double LeastStitch = 0.8;
    private const double BackCosine = -0.3;

    // By fineness: where is cut, and whether what is alike stays together.
    private static readonly (Cutting At, bool Alike)[] Steps = [(Cutting.Parts, false), (Cutting.Trims, false), (Cutting.Rows, true), (Cutting.Stitches, true), (Cutting.Stitches, false)];
    private const int FirstAlike = 2;
    private const int FinestAlike = 3;
    private readonly SewingPlan _plan;
    private readonly Cutting[] _cutting;
    private readonly Func<Point, int>? _kindOf;

    /// <summary>Looks where a plan may be cut.</summary>
    /// <param name="plan">The plan.</param>
    /// <param name="kindOf">A number for a place: places of one number are alike; 0 where each place counts by itself. Null: none are alike.</param>
    public Portions(SewingPlan plan, Func<Point, int>? kindOf = null)
    {
        (_plan, _cutting, _kindOf) = (plan, new Cutting[plan.Records.Count], kindOf);
        foreach (var part in plan.Parts) LookAt(part);
    }

    /// <summary>How little a cut before a record shows.</summary>
    public Cutting Before(int record) => _cutting[record];

    /// <summary>Whether the stitch of a record begins at the needle point before it.</summary>
    public static bool GoesOn(StitchBlob records, int record) => record > 0 && records.Kinds[record] == StitchKind.Stitch && records.Kinds[record - 1] == StitchKind.Stitch;

    /// <summary>Every part as a whole.</summary>
    public List<Portion> Whole()
    {
        var all = new List<Portion>();
        for (var n = 0; n < _plan.Parts.Length; n++)
            if (_plan.Parts[n] is { Count: > 0 } part)
                all.Add(Made(part.First, part.End, n, 0));
        return all;
    }

    /// <summary>A portion cut as little more finely as possible; null where it cannot be cut.</summary>
    public List<Portion>? Finer(Portion portion)
    {
        for (var fineness = portion.Fineness + 1; fineness < Steps.Length; fineness++)
            if (Cut(portion, fineness) is { } cut)
                return cut;
        return null;
    }

    /// <summary>A portion of what is alike, cut where it goes into some ground and out of it; null where it is whole, or not cut so.</summary>
    /// <param name="portion">The portion.</param>
    /// <param name="isGround">Whether a place belongs to that ground.</param>
    public List<Portion>? FinerAround(Portion portion, Func<Point, bool> isGround) =>
        portion.Fineness < FirstAlike ? null : Cut(portion, FinestAlike, p => isGround(p) ? 2 : 1);

    private List<Portion>? Cut(Portion portion, int fineness, Func<Point, int>? kindOf = null)
    {
        var (at, alike) = Steps[fineness];
        kindOf ??= alike ? _kindOf : null;
        List<Portion>? cut = null;
        var (from, kind, last) = (portion.First, -1, portion.First);
        for (var i = portion.First + 1; i <= portion.End; i++)
        {
            if (i < portion.End && _cutting[i] > at) continue;

            // What begins at the last cut and ends here is of a kind when all of it is.
            var its = kindOf is null ? 0 : KindOf(last, i, kindOf);
            if (last > from && (its == 0 || its != kind))
            {
                (cut ??= []).Add(Made(from, last, portion.Part, fineness));
                from = last;
            }

            (kind, last) = (its, i);
        }

        if (from == portion.First) return null;
        cut!.Add(Made(from, portion.End, portion.Part, fineness));
        return cut;
    }

    /// <summary>The kind of all needle points of some records; 0 where they differ.</summary>
    private int KindOf(int first, int end, Func<Point, int> kindOf)
    {
        var records = _plan.Records;
        var kind = GoesOn(records, first) ? kindOf(records.At(first - 1)) : -1;
        for (var i = first; i < end && kind != 0; i++)
        {
            if (records.Kinds[i] != StitchKind.Stitch) continue;
            var its = kindOf(records.At(i));
            kind = kind < 0 || kind == its ? its : 0;
        }

        return Math.Max(kind, 0);
    }

    private Portion Made(int first, int end, int part, int fineness)
    {
        var bounds = _plan.Records.BoundsOf(first, end - first);
        return new(first, end, part, fineness, GoesOn(_plan.Records, first) ? bounds.With(_plan.Records.At(first - 1)) : bounds);
    }

    /// <summary>Leaps and stops belong to what follows them, trims to what they end, ties to their stitches.</summary>
    private void LookAt(PlannedPart part)
    {
        var records = _plan.Records;
        var (since, heading, afterLong) = (0.0, Point.Zero, -1);
        for (var i = part.First; i < part.End; i++)
        {
            var goesOn = GoesOn(records, i);
            _cutting[i] = i == part.First ? Cutting.Parts : records.Kinds[i] switch
            {
                StitchKind.Jump or StitchKind.Stop => records.Kinds[i - 1] is StitchKind.Jump or StitchKind.Stop ? Cutting.Never : Cutting.Trims,
                StitchKind.Stitch when records.Kinds[i - 1] == StitchKind.Trim => Cutting.Trims,
                StitchKind.Stitch when goesOn => Cutting.Stitches,
                _ => Cutting.Never,
            };
            if (!goesOn)
            {
                (since, heading, afterLong) = (0, Point.Zero, -1);
                continue;
            }

            var stitch = records.At(i) - records.At(i - 1);
            var length = stitch.Length;
            since += length;
            if (_cutting[i] == Cutting.Stitches && length < LeastStitch && since < 2 * LeastStitch) _cutting[i] = Cutting.Never;
            else if (_cutting[i] == Cutting.Stitches) since = 0;
            if (length < LeastStitch) continue;
            var direction = stitch / length;
            if (afterLong > part.First && direction.Dot(heading) < BackCosine) _cutting[afterLong] = Cutting.Rows;
            (heading, afterLong) = (direction, i + 1);
        }
    }
}
