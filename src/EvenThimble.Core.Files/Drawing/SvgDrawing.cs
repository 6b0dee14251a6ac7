using System.Collections.Immutable;
using EvenThimble.Core.Colour;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Files.Drawing;

/// <summary>A shape of a vector drawing: what is painted in one colour.</summary>
/// <param name="Name">From the drawing, or its kind and number.</param>
/// <param name="Shape">In mm about the drawing's middle.</param>
/// <param name="Colour">As it is painted.</param>
/// <param name="LineWidth">Of a line, mm; null for a painted area.</param>
public sealed record SvgShape(string Name, DrawnShape Shape, Rgb Colour, double? LineWidth);

/// <summary>A vector drawing as it is brought in.</summary>
/// <param name="Width">Of the drawing's page, mm.</param>
/// <param name="Height">Of the drawing's page, mm.</param>
/// <param name="SizeIsKnown">Whether the file says it in true units; else 96 units were taken for an inch.</param>
/// <param name="Shapes">In the order they are painted.</param>
/// <param name="Notes">What was left out or changed and why, in sentences.</param>
public sealed record SvgDrawing(double Width, double Height, bool SizeIsKnown, ImmutableArray<SvgShape> Shapes, ImmutableArray<string> Notes)
{
    /// <summary>The largest file that is read, bytes.</summary>
    public const int LargestFile = SvgSource.LargestFile;

    /// <summary>A drawing of more shapes has those of one colour joined.</summary>
    internal const int ManyShapes = 400;

    /// <summary>More shapes than this are refused, joined or not.</summary>
    internal const int MostShapes = 2_000;

    /// <summary>Reads a drawing, plain or packed with gzip.</summary>
    /// <exception cref="StitchFileException">It cannot be used; the message says why.</exception>
    /// <exception cref="TooMuchWorkException">It repeats its parts so often that nobody could wait for it.</exception>
    public static SvgDrawing Read(byte[] bytes) => new SvgReading(SvgSource.Read(bytes)).Drawing();

    /// <summary>The drawing at another width; heights follow.</summary>
    public SvgDrawing AtWidth(double width)
    {
        var k = width / Width;
        return this with { Width = width, Height = Height * k, SizeIsKnown = true, Shapes = [.. Shapes.Select(s => s with { Shape = s.Shape.Moved(p => p * k), LineWidth = s.LineWidth * k })] };
    }
}
