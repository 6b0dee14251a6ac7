using EvenThimble.Core.Rack;
using EvenThimble.Core.Threads;

namespace EvenThimble.Scenario;

/// <summary>The cones that the volunteers have on their rack.</summary>
public static class VolunteersRack
{
    /// <summary>What the rack is called.</summary>
    public const string Name = "Observatory cupboard";

    private static readonly string[] Places = ["drawer 1", "drawer 2", "top shelf", "tea tin"];

    /// <summary>
    /// Threads of two ranges from all around the hues, most of them begun; some low, one used up. Of what the demo's designs are sewn with a few are there, the gold with little left.
    /// </summary>
    public static IReadOnlyList<Cone> Cones { get; } = [.. Chosen().DistinctBy(c => c.Thread)];

    private static IEnumerable<Cone> Chosen()
    {
        yield return Begun(VolunteersThreads.Night, 0, 620, 0);
        yield return Begun(VolunteersThreads.Gold, 0, 24, 1);
        yield return Begun(VolunteersThreads.Chalk, 0, 1_480, 2, 2);
        yield return Begun(VolunteersThreads.Madder, 2, 85, 3);
        for (var n = 0; n < 16; n++) yield return Begun(MadeUpCharts.All[0].Threads[5 + (22 * n)], 0, n == 7 ? 0 : 1_000 - (n * 137 % 900), n);
        for (var n = 0; n < 16; n++) yield return Begun(MadeUpCharts.All[2].Threads[3 + (24 * n)], 2, 1_000 - (n * 211 % 940), n + 1);
    }

    private static Cone Begun(SewingThread thread, int chart, double left, int place, int count = 1) =>
        Cone.Full(MadeUpCharts.All[chart].Sold.First(s => s.Thread == thread), count) with { LeftMetres = left, UsedMetres = (count * 1_000) - left, Stands = Places[place % Places.Length], EmptyGrams = 14 };
}
