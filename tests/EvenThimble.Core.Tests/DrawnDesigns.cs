using System.Collections.Concurrent;
using EvenThimble.Core.Stitches;
using EvenThimble.Scenario;

namespace EvenThimble.Core.Tests;

/// <summary>The demo designs, each drawn once for all tests: the large ones take a second.</summary>
internal static class DrawnDesigns
{
    private static readonly ConcurrentDictionary<DemoDesign, Lazy<StitchFile>> Made = new();

    public static StitchFile Drawn(this DemoDesign design) => Made.GetOrAdd(design, d => new(d.Draw)).Value;
}
