using System.Collections.Immutable;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Hoopings;

/// <summary>What is sewn in one hooping.</summary>
/// <param name="Number">From 1, in the order they are sewn.</param>
/// <param name="Of">How many there are.</param>
/// <param name="Hooping">The hooping.</param>
/// <param name="Place">Its field on the job.</param>
/// <param name="Plan">What the machine does, in the job's place, mm.</param>
/// <param name="Pivot">The cross that the offset of the hooping is measured at, mm.</param>
public sealed record HoopedPlan(int Number, int Of, Hooping Hooping, PlacedField Place, SewingPlan Plan, Point Pivot)
{
    /// <summary>What the machine does, with the middle of the field at the origin, met with what was measured.</summary>
    public SewingPlan AtMachine { get; } = Place.Centre == Point.Zero && Hooping.Measured == MeasuredOffset.None ? Plan : Shifted(Plan, p => Hooping.Measured.Met(p, Pivot) - Place.Centre);

    /// <summary>The hoop's position for files and messages.</summary>
    public int Position => Hooping.Position ?? Place.Field.MiddlePosition.Number;

    /// <summary>What a stitch file says of it: the position of a long hoop, else which hooping it is; and where the middle of its field lies on the job.</summary>
    public HoopNote Note => Hooping.Position is null && Of > 1
        ? new(Place.Field.Name, Number, Of, Place.Centre.X, Place.Centre.Y)
        : new(Place.Field.Name, Position, Place.Field.Positions, Place.Centre.X, Place.Centre.Y);

    /// <summary>In a few words, such as "hooping 1 of 2, position 3".</summary>
    public string InWords => Of == 1 ? Place.Field.Name : $"hooping {Number} of {Of}{(Hooping.Position is { } position ? $", position {position}" : $", mark {Number}")}";

    /// <summary>A name with the hooping's number behind it, such as "banner 1of2"; where a name has a greatest length, cut to fit. The name itself where there is one hooping.</summary>
    public string Named(string name, int? most = null)
    {
        if (Of == 1) return name;
        var number = $" {Number}of{Of}";
        return (most is { } length && name.Length + number.Length > length ? name[..Math.Max(1, length - number.Length)].TrimEnd() : name) + number;
    }

    private static SewingPlan Shifted(SewingPlan plan, Func<Point, Point> to)
    {
        var records = plan.Records;
        var (x, y) = (new double[records.Count], new double[records.Count]);
        for (var i = 0; i < records.Count; i++) (x[i], y[i]) = to(records.At(i));
        var moved = new StitchBlob(x, y, records.Kinds.ToArray(), records.Messages);
        return new(moved, [.. plan.Parts.Select(p => p with { Bounds = moved.BoundsOf(p.First, p.Count) })]);
    }
}

/// <summary>Makes the plan of one hooping of the portions that it sews: what was cut is tied off and in, and no thread lies across to what another hooping sews.</summary>
internal static class HoopedStitches
{
    // Two rows that were cut at the seam are joined along it when they are so near, mm.
    private const double JoinedAlongSeam = 4;

    // Needle points nearer than this are one, mm.
    private const double SamePlace = 0.005;

    /// <summary>The plan.</summary>
    /// <param name="plan">That of the job.</param>
    /// <param name="division">Which portion sews when.</param>
    /// <param name="hooping">The number of the hooping, from 0.</param>
    public static SewingPlan Of(SewingPlan plan, Division division, int hooping)
    {
        var (records, builder) = (plan.Records, new StitchBuilder());
        var starts = new List<(int Part, int First)>();
        (int Part, int End)? before = null;
        for (var n = 0; n < division.Portions.Count;)
        {
            var first = division.Portions[n];
            if (division.Hooping[n] != hooping)
            {
                n++;
                continue;
            }

            // Portions that follow each other are sewn as they stand.
            var end = first.End;
            while (++n < division.Portions.Count && division.Hooping[n] == hooping && division.Portions[n].First == end && division.Portions[n].Part == first.Part) end = division.Portions[n].End;
            if (before is { } b && b.End == first.First) NewPart();
            else if (before is null && first.First == 0) NewPart();
            else
            {
                var cut = Portions.GoesOn(records, first.First);
                var joined = Finish(first, cut);
                NewPart();
                Begin(first, end, cut, joined);
                before = (first.Part, end);
                continue;
            }

            Append(first.First, end);
            before = (first.Part, end);

            void NewPart()
            {
                if (starts.Count == 0 || starts[^1].Part != first.Part) starts.Add((first.Part, builder.Count));
            }
        }

        if (before is { } last && last.End < records.Count) End();
        return Assembled();

        // Ends what was sewn before something else; tells whether the thread goes on.
        bool Finish(Portion next, bool cut)
        {
            builder.DropTrailingJumps();
            if (builder.Count == 0 || ThreadEnds.IsCut(builder)) return false;
            var start = records.At(cut ? next.First - 1 : FirstStitch(next.First, next.End));
            if (before is { } b && b.Part == next.Part && builder.Needle.DistanceTo(start) <= (!cut ? Limits.TrimOver : IsOneRun(b.End, next.First) ? JoinedAlongSeam : 0)) return true;
            End();
            return false;
        }

        void End()
        {
            builder.DropTrailingJumps();
            ThreadEnds.Finish(builder);
        }

        // Unbroken, and without the very stitch that would join its ends: another hooping sews that already.
        bool IsOneRun(int from, int to)
        {
            var (start, end) = (records.At(from - 1), records.At(to - 1));
            for (var i = from; i < to; i++)
                if (records.Kinds[i] != StitchKind.Stitch || (records.At(i - 1).DistanceTo(start) < SamePlace && records.At(i).DistanceTo(end) < SamePlace))
                    return false;
            return true;
        }

        void Begin(Portion first, int end, bool cut, bool goesOn)
        {
            var from = first.First;
            for (; from < end && records.Kinds[from] != StitchKind.Stitch; from++)
                if (records.Kinds[from] == StitchKind.Stop)
                    builder.Stop(records.Messages.GetValueOrDefault(from, string.Empty));
            if (from >= end) return;
            var start = records.At(cut ? from - 1 : from);
            if (goesOn)
            {
                // Along the seam by a stitch; where the job leaps, by a leap.
                if (cut && builder.Needle.DistanceTo(start) > 0.1) builder.Stitch(start);
                else if (!cut) builder.Jump(start);
                Append(from, end);
                return;
            }

            builder.Jump(start);
            var run = cut ? from - 1 : from;
            var tied = ThreadEnds.TieIn(builder, i => run + i < end && records.Kinds[run + i] == StitchKind.Stitch ? records.At(run + i) : null);
            if (!tied && cut) builder.Stitch(start);
            Append(tied && !cut ? from + 1 : from, end);
        }

        int FirstStitch(int first, int end)
        {
            var i = first;
            while (i < end - 1 && records.Kinds[i] != StitchKind.Stitch) i++;
            return i;
        }

        void Append(int first, int end) => builder.Append(records, first, end);

        SewingPlan Assembled()
        {
            var blob = builder.ToBlob();
            return new(blob, [.. starts.Select((s, i) => (i + 1 < starts.Count ? starts[i + 1].First : blob.Count) - s.First is var count
                ? plan.Parts[s.Part] with { First = s.First, Count = count, Bounds = blob.BoundsOf(s.First, count) } : null!)]);
        }
    }
}
