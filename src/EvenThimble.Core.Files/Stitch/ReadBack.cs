using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Files.Stitch;

/// <summary>Reads a file that was just written and compares it with what was meant.</summary>
public static class ReadBack
{
    /// <summary>Compares every needle point, trim and stop in order, and the threads as far as the kind carries them.</summary>
    /// <exception cref="StitchFileException">The file differs; it must not be handed out.</exception>
    public static void Verify(IStitchFormat format, StitchFile meant, ReadOnlySpan<byte> bytes)
    {
        var found = StitchFormats.Read(bytes, meant.Title).File;
        var (kind, tolerance) = (format.Kind, format.ToleranceMm);
        var (i, j) = (0, 0);
        while (true)
        {
            i = NextDone(meant.Stitches, i);
            j = NextDone(found.Stitches, j);
            if (i == meant.Stitches.Count || j == found.Stitches.Count) break;
            var agree = meant.Stitches.Kinds[i] == found.Stitches.Kinds[j]
                && (meant.Stitches.Kinds[i] != StitchKind.Stitch || (Near(meant.Stitches.X[i], found.Stitches.X[j], tolerance) && Near(meant.Stitches.Y[i], found.Stitches.Y[j], tolerance)));
            if (!agree) throw Differs(kind, $"record {j}");
            i++;
            j++;
        }

        if (i != meant.Stitches.Count || j != found.Stitches.Count) throw Differs(kind, "the number of stitches");
        if (found.ThreadChanges != meant.ThreadChanges) throw Differs(kind, "the number of thread changes");
        if (format.CarriesThreads && !found.Parts.Select(p => (p.Thread.Colour, p.Role)).SequenceEqual(meant.Parts.Where(p => p.Count > 0).Select(p => (p.Thread.Colour, p.Role))))
            throw Differs(kind, "threads or roles");
        if (kind == StitchFileKind.Evth2 && meant.Needles.Length > 0 && !found.Needles.SequenceEqual(meant.Needles.Where((_, n) => meant.Parts[n].Count > 0))) throw Differs(kind, "its needles");
    }

    /// <summary>Jumps are passed over: a long one may go as several, and they leave no mark on the cloth.</summary>
    private static int NextDone(StitchBlob blob, int from)
    {
        while (from < blob.Count && blob.Kinds[from] == StitchKind.Jump) from++;
        return from;
    }

    private static bool Near(double a, double b, double tolerance) => Math.Abs(a - b) <= tolerance;

    private static StitchFileException Differs(StitchFileKind kind, string where) =>
        new($"The {kind.Name} was written but read back differently at {where}. It was not handed out; nothing was changed.");
}
