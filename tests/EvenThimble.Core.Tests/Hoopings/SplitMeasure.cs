using EvenThimble.Core.Geometry;
using EvenThimble.Core.Hoopings;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Tests.Hoopings;

/// <summary>What came of a division, looked at from outside: stitches compared one by one, layers as a picture of small squares. It knows nothing of how the program divides.</summary>
internal sealed record SplitMeasure(int Lost, int Twice, int Outside, int Hoopings, double OtherPixels, int TurnedRound, int Untied, int Slivers)
{
    private const double PixelMm = 0.25;
    private const double HalfThreadMm = 0.18;

    public static SplitMeasure Of(SewingPlan plan, HoopedJob hooped)
    {
        var wanted = Stitches(plan).GroupBy(s => s).ToDictionary(g => g.Key, g => g.Count());
        var sewn = hooped.Hoopings.SelectMany(h => Stitches(h.Plan)).GroupBy(s => s).ToDictionary(g => g.Key, g => g.Count());
        var (lost, twice) = (0, 0);
        foreach (var (stitch, count) in wanted)
        {
            var there = sewn.GetValueOrDefault(stitch);
            lost += Math.Max(0, count - there);

            // Ties go back over the stitch they hold, and are no stitch sewn twice.
            if (Length(stitch) > 1.2) twice += Math.Max(0, there - count);
        }

        var outside = hooped.Hoopings.Sum(h => Enumerable.Range(0, h.Plan.Records.Count).Count(i => h.Plan.Records.Kinds[i] == StitchKind.Stitch && !Inside(h.Place, h.Plan.Records.At(i))));
        var order = plan.Parts.Select((p, n) => (p.Id, n)).ToDictionary(p => p.Id, p => p.n + 1);
        var (asked, got) = (new Dictionary<(int, int), int>(), new Dictionary<(int, int), int>());
        Paint(plan, order, asked);
        foreach (var hooping in hooped.Hoopings) Paint(hooping.Plan, order, got);
        var (other, turned) = (0, 0);
        foreach (var pixel in asked.Keys.Union(got.Keys))
        {
            var (a, g) = (asked.GetValueOrDefault(pixel), got.GetValueOrDefault(pixel));
            if (a != g) other++;
            if (g != 0 && g < a) turned++;
        }

        return new(lost, twice, outside, hooped.Hoopings.Length, other / (double)Math.Max(asked.Count, 1), turned, hooped.Hoopings.Sum(h => UntiedOf(plan, h.Plan)), hooped.Hoopings.Sum(h => SliversOf(plan, h.Plan)));
    }

    private static IEnumerable<(long, long, long, long)> Stitches(SewingPlan plan)
    {
        for (var i = 1; i < plan.Records.Count; i++)
            if (plan.Records.Kinds[i] == StitchKind.Stitch && plan.Records.Kinds[i - 1] == StitchKind.Stitch)
                yield return (Key(plan.Records.At(i - 1).X), Key(plan.Records.At(i - 1).Y), Key(plan.Records.At(i).X), Key(plan.Records.At(i).Y));
    }

    private static long Key(double v) => (long)Math.Round(v * 10_000);

    private static double Length((long X, long Y, long U, long V) s) => Math.Sqrt(((s.X - s.U) * (double)(s.X - s.U)) + ((s.Y - s.V) * (double)(s.Y - s.V))) / 10_000;

    private static bool Inside(PlacedField place, Point p) => Math.Abs(p.X - place.Centre.X) <= (place.Field.Width / 2) + 0.051 && Math.Abs(p.Y - place.Centre.Y) <= (place.Field.Height / 2) + 0.051;

    private static void Paint(SewingPlan plan, Dictionary<Core.Jobs.PartId, int> order, Dictionary<(int, int), int> pixels)
    {
        foreach (var part in plan.Parts)
        {
            if (!order.TryGetValue(part.Id, out var number)) continue;
            for (var i = Math.Max(part.First, 1); i < part.End; i++)
            {
                if (plan.Records.Kinds[i] != StitchKind.Stitch || plan.Records.Kinds[i - 1] != StitchKind.Stitch) continue;
                var (a, b) = (plan.Records.At(i - 1), plan.Records.At(i));
                var steps = Math.Max(1, (int)Math.Ceiling(a.DistanceTo(b) / (PixelMm / 2)));
                for (var s = 0; s <= steps; s++)
                {
                    var (p, aside) = (a.Toward(b, s / (double)steps), (b - a).Unit().Normal() * HalfThreadMm);
                    foreach (var q in new[] { p, p + aside, p - aside }) pixels[((int)Math.Floor(q.X / PixelMm), (int)Math.Floor(q.Y / PixelMm))] = number;
                }
            }
        }
    }

    /// <summary>Unbroken threads that begin or end where the job's do not, and are not held there by small stitches.</summary>
    private static int UntiedOf(SewingPlan plan, SewingPlan hooping)
    {
        var ends = Threads(plan).SelectMany(t => new[] { t[0], t[^1] }).Select(p => (Key(p.X), Key(p.Y))).ToHashSet();
        return Threads(hooping).Sum(t => (ends.Contains((Key(t[0].X), Key(t[0].Y))) || Held(t) ? 0 : 1) + (ends.Contains((Key(t[^1].X), Key(t[^1].Y))) || Held([.. t.Reverse()]) ? 0 : 1));

        static bool Held(Point[] t) => t.Length > 3 && Enumerable.Range(0, 3).All(i => t[i].DistanceTo(t[i + 1]) <= 1.06);
    }

    /// <summary>Pieces smaller than 3 mm that were cut off a longer thread.</summary>
    private static int SliversOf(SewingPlan plan, SewingPlan hooping)
    {
        var whole = Threads(plan).Select(t => t.Select(p => (Key(p.X), Key(p.Y))).ToHashSet()).ToList();
        return Threads(hooping).Count(t => Math.Max(Box.Around(t).Width, Box.Around(t).Height) < 3 && !whole.Exists(w => w.SetEquals(t.Select(p => (Key(p.X), Key(p.Y))))));
    }

    private static IEnumerable<Point[]> Threads(SewingPlan plan)
    {
        var thread = new List<Point>();
        for (var i = 0; i <= plan.Records.Count; i++)
        {
            if (i < plan.Records.Count && plan.Records.Kinds[i] == StitchKind.Stitch)
            {
                thread.Add(plan.Records.At(i));
                continue;
            }

            if (thread.Count > 1) yield return [.. thread];
            thread.Clear();
        }
    }
}
