namespace EvenThimble.Core.Monograms;

/// <summary>A way to lay the letters of a monogram.</summary>
/// <param name="Id">Short name in files.</param>
/// <param name="Name">As the user reads it.</param>
public sealed record MonogramLayout(string Id, string Name)
{
    /// <summary>The outline that letters are shaped to fill; null: they keep their form.</summary>
    internal MonogramGround? Ground { get; init; }

    /// <summary>How letters that keep their form are laid.</summary>
    internal FreeLaying Free { get; init; }

    /// <summary>The form of a frame that is to lie as its letters do, where they fill no outline.</summary>
    internal FrameForm FreeForm { get; init; } = FrameForm.Circle;

    /// <summary>All layouts, the plainest first.</summary>
    public static IReadOnlyList<MonogramLayout> All { get; } =
    [
        new("row", "large middle") { Free = FreeLaying.LargeMiddle },
        new("even", "even row") { Free = FreeLaying.Even, FreeForm = FrameForm.Oval },
        new("stacked", "stacked") { Free = FreeLaying.Stacked },
        new("pillar", "tall beside two") { Free = FreeLaying.Pillar },
        new("interlocked", "interlocked") { Free = FreeLaying.Interlocked },
        new("circle", "circle") { Ground = MonogramGround.Circle },
        new("oval", "oval") { Ground = MonogramGround.Oval },
        new("wide-oval", "wide oval") { Ground = MonogramGround.WideOval },
        new("diamond", "diamond") { Ground = MonogramGround.Diamond },
        new("square", "square") { Ground = MonogramGround.Square },
        new("shield", "shield") { Ground = MonogramGround.Shield },
        new("arch", "arch") { Ground = MonogramGround.Arch },
    ];

    /// <summary>The layout of a short name; null: there is none.</summary>
    public static MonogramLayout? Find(string? id) => All.FirstOrDefault(l => l.Id == id || l.Name == id);

    /// <inheritdoc/>
    public bool Equals(MonogramLayout? other) => other?.Id == Id;

    /// <inheritdoc/>
    public override int GetHashCode() => Id.GetHashCode(StringComparison.Ordinal);
}

/// <summary>How letters that keep their form are laid.</summary>
internal enum FreeLaying : byte
{
    /// <summary>Beside each other, that in the middle larger.</summary>
    LargeMiddle,

    /// <summary>Beside each other, all alike.</summary>
    Even,

    /// <summary>Below each other.</summary>
    Stacked,

    /// <summary>The last one tall, the others stacked before it.</summary>
    Pillar,

    /// <summary>Over and under each other.</summary>
    Interlocked,
}

/// <summary>What form a frame has.</summary>
public enum FrameForm : byte
{
    /// <summary>That of the letters: everywhere as far from the outline that they fill.</summary>
    AsLetters,

    /// <summary>A circle.</summary>
    Circle,

    /// <summary>An oval, in proportion to the letters.</summary>
    Oval,

    /// <summary>A rectangle with round corners.</summary>
    Rectangle,

    /// <summary>A diamond.</summary>
    Diamond,

    /// <summary>A shield.</summary>
    Shield,
}

/// <summary>The words for forms of frames.</summary>
public static class FrameForms
{
    private static readonly string[] Words = ["as the letters", "circle", "oval", "rectangle", "diamond", "shield"];

    /// <summary>All forms.</summary>
    public static IReadOnlyList<FrameForm> All { get; } = Enum.GetValues<FrameForm>();

    /// <summary>The form in words.</summary>
    public static string InWords(this FrameForm form) => Words[(int)form];
}
