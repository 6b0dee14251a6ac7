using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Tests;
using EvenThimble.Scenario;

namespace EvenThimble.App.Tests.Damage;

/// <summary>Stitch files of any size, no two alike.</summary>
internal static class AnyDesign
{
    /// <summary>The bytes of an .evth of needle points at random in 80 x 80 mm.</summary>
    public static byte[] File(Random random, string title, int stitches)
    {
        var builder = new StitchBuilder();
        for (var i = 0; i < stitches; i++) builder.Stitch(new Point(random.NextDouble() * 80, random.NextDouble() * 80));
        var blob = builder.ToBlob();
        return StitchFormats.Write(StitchFileKind.Evth1, new(title, blob, [new(0, blob.Count, DemoDesigns.All[2].Drawn().Parts[0].Thread, PartRole.Decoration)]));
    }
}
