using EvenThimble.Core.Geometry;
using EvenThimble.Core.Stitches;
using EvenThimble.Scenario;

namespace EvenThimble.Core.Tests.Respacing;

/// <summary>The demo designs as they would be bought, each drawn once.</summary>
internal static class Designs
{
    private static readonly Dictionary<int, StitchFile> Made = [];

    public static int Count => DemoDesigns.All.Count;

    public static StitchFile Drawn(int number)
    {
        lock (Made) return Made.TryGetValue(number, out var made) ? made : Made[number] = DemoDesigns.All[number].Draw();
    }

    public static Box Scaled(Box was, double scale) => new(was.MinX * scale, was.MinY * scale, was.MaxX * scale, was.MaxY * scale);
}
