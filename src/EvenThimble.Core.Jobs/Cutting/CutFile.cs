using System.Collections.Immutable;
using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Cutting;

/// <summary>Lines that are cut from one material, each closed by itself, in the order they are cut.</summary>
/// <param name="Material">What they are cut from.</param>
/// <param name="Lines">The lines, mm from the far left corner; none repeats its first point.</param>
public sealed record CutGroup(string Material, ImmutableArray<ImmutableArray<Point>> Lines);

/// <summary>What a cut file holds, whatever its format: closed lines at true size.</summary>
/// <param name="Title">As the user reads it.</param>
/// <param name="Width">Of the sheet, mm.</param>
/// <param name="Height">Of the sheet, mm.</param>
/// <param name="Groups">By material.</param>
public sealed record CutFile(string Title, double Width, double Height, ImmutableArray<CutGroup> Groups)
{
    /// <summary>All lines.</summary>
    public IEnumerable<ImmutableArray<Point>> Lines => Groups.SelectMany(g => g.Lines);

    /// <summary>The rectangle about all lines, mm.</summary>
    public Box Bounds => Box.Around(Lines.SelectMany(l => l));

    /// <summary>The lines of a sheet; of each piece the inner ones first, or it would slip.</summary>
    public static CutFile Of(CutSheet sheet, string title) =>
        new(title, sheet.Width, sheet.Height, [new(sheet.Material, [.. sheet.Pieces.SelectMany(p => p.Rings.Skip(1).Append(p.Rings[0]))])]);
}
