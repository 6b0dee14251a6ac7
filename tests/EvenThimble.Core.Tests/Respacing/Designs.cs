using EvenThimble.Core.Geometry;
using EvenThimble.Core.Stitches;
using EvenThimble.Scenario;

namespace EvenThimble.Core.Tests.Respacing;

/// <summary>The demo designs as they would be bought.</summary>
internal static class Designs
{
    public static int Count => DemoDesigns.All.Count;

    public static StitchFile Drawn(int number) => DemoDesigns.All[number].Drawn();

    public static Box Scaled(Box was, double scale) => new(was.MinX * scale, was.MinY * scale, was.MaxX * scale, was.MaxY * scale);
}
