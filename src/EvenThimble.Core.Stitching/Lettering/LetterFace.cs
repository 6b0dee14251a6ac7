using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Lettering;

/// <summary>A font under the name that it has here, with what is known of it once it was measured. It may be used by several threads.</summary>
/// <param name="name">What it is called here.</param>
/// <param name="font">Its letters.</param>
public sealed class LetterFace(string name, ILetterFont font)
{
    private readonly Made<OpticalSpacing> _optical = new(() => new(font));
    private readonly Made<FontMeasure> _measure = new(() => FontMeasure.Of(font));

    /// <summary>What it is called here.</summary>
    public string Name { get; } = name;

    /// <summary>Its letters.</summary>
    public ILetterFont Font { get; } = font;

    /// <summary>Its equal white; it remembers pairs.</summary>
    public OpticalSpacing Optical => _optical.Value;

    /// <summary>How thick its strokes are.</summary>
    public FontMeasure Measure => _measure.Value;

    /// <summary>Lays a lettering in it.</summary>
    /// <exception cref="Text.EditRefusedException">There is nothing to lay, or it does not fit where it is wanted; a sentence.</exception>
    public LaidLettering Lay(LetteringWish wish) => LetteringLayout.Of(wish, Font, Optical);
}

/// <summary>Where fonts are found by their names.</summary>
public interface ILetterFaces
{
    /// <summary>The font of a name; null: it is not here.</summary>
    LetterFace? Find(string? name);
}
