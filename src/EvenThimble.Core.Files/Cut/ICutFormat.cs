using EvenThimble.Core.Cutting;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Files.Cut;

/// <summary>A format that lines are cut from. What is written can be read again.</summary>
public interface ICutFormat
{
    /// <summary>Which.</summary>
    CutFileKind Kind { get; }

    /// <summary>The bytes of a file.</summary>
    byte[] Write(CutFile file);

    /// <summary>What a file holds: its closed lines, mm.</summary>
    /// <exception cref="StitchFileException">It is none, is damaged, or holds a line that is not closed.</exception>
    CutFile Read(byte[] bytes, string title);
}

/// <summary>All formats of lines, and what is promised of them.</summary>
public static class CutFormats
{
    /// <summary>No cut file is larger than this.</summary>
    public const int LargestFile = 32 * 1024 * 1024;

    /// <summary>No cut file has more lines than this.</summary>
    public const int MostLines = 20_000;

    /// <summary>No cut file has more points than this.</summary>
    public const int MostPoints = 2_000_000;

    private const double Within = 0.03;

    /// <summary>The formats of lines.</summary>
    public static IReadOnlyList<ICutFormat> All { get; } = [new SvgCut(), new DxfCut(), new PlotterCut()];

    /// <summary>The format of a kind; null where it holds no lines.</summary>
    public static ICutFormat? Of(CutFileKind kind) => All.FirstOrDefault(f => f.Kind == kind);

    /// <summary>The bytes of a file of lines, read back and compared.</summary>
    /// <exception cref="StitchFileException">What was written cannot be read back as it is.</exception>
    /// <exception cref="ArgumentException">The kind holds no lines.</exception>
    public static byte[] Write(CutFileKind kind, CutFile file)
    {
        var format = Of(kind) ?? throw new ArgumentException($"{kind.Name} holds no lines.");
        var bytes = format.Write(file);
        var back = format.Read(bytes, file.Title);
        if (!IsSame(file, back)) throw new StitchFileException($"The {kind.Name} did not hold what was to be cut. Nothing was written.");
        return bytes;
    }

    private static bool IsSame(CutFile wanted, CutFile back)
    {
        var (one, other) = (wanted.Lines.ToList(), back.Lines.ToList());
        return one.Count == other.Count && one.Zip(other).All(p => p.First.Length == p.Second.Length && p.First.Zip(p.Second).All(q => q.First.DistanceTo(q.Second) <= Within));
    }
}
