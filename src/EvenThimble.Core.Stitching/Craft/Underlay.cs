namespace EvenThimble.Core.Craft;

/// <summary>What is sewn under satin or fill, to hold cloth and stabilizer together and to bear the top stitches.</summary>
public enum Underlay : byte
{
    /// <summary>Nothing.</summary>
    None,

    /// <summary>A run along the middle of a satin; of a fill, a few runs across.</summary>
    Centre,

    /// <summary>A run inside the edge, all round.</summary>
    Edge,

    /// <summary>A wide zigzag.</summary>
    Zigzag,

    /// <summary>A wide zigzag there and back, crossing itself.</summary>
    DoubleZigzag,

    /// <summary>A thin fill across the top stitches.</summary>
    Light,
}

/// <summary>Up to two layers of underlay, in the order they are sewn.</summary>
public readonly record struct UnderlayLayers(Underlay First, Underlay Second = Underlay.None)
{
    /// <summary>No underlay.</summary>
    public static readonly UnderlayLayers None = new(Underlay.None);

    /// <summary>The layers that are sewn.</summary>
    public IReadOnlyList<Underlay> Sewn => [.. new[] { First, Second }.Where(l => l != Underlay.None)];

    /// <summary>As the user reads it.</summary>
    public string InWords => Sewn.Count == 0 ? "none" : string.Join(" and ", Sewn.Select(Name));

    /// <summary>The words for one layer.</summary>
    public static string Name(Underlay layer) => layer switch
    {
        Underlay.None => "none",
        Underlay.Centre => "centre run",
        Underlay.Edge => "edge run",
        Underlay.Zigzag => "zigzag",
        Underlay.DoubleZigzag => "double zigzag",
        _ => "light fill",
    };
}
