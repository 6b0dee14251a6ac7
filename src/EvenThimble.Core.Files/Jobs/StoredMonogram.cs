using System.Collections.Immutable;
using EvenThimble.Core.Borders;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Monograms;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Files.Jobs;

/// <summary>What is wanted of a monogram; its letters and its frame stand among the shapes.</summary>
internal sealed record StoredMonogram(string[] Letters, string Layout, string Font, string Way, double Size, string? Frame, string? Form, double FrameGap, double LetterGap, string? Name, bool AsRead)
{
    public static StoredMonogram Of(MonogramContent content)
    {
        var w = content.Wish;
        return new([.. w.Letters], w.Layout.Id, content.Font, StorageKeys.Of(content.Way), w.SizeMm, w.Frame?.Id, w.Form == FrameForm.AsLetters ? null : w.Form.ToString(), w.FrameGapMm, w.LetterGap, w.Name, w.Order == InitialOrder.AsRead);
    }

    public MonogramContent ToContent(ImmutableArray<DrawingShape> shapes) => new(
        new([.. Letters], MonogramLayout.Find(Layout) ?? throw Unknown("layout", Layout))
        {
            SizeMm = Size,
            Frame = Frame is null ? null : MonogramFrame.Find(Frame) ?? throw Unknown("frame", Frame),
            Form = Form is null ? FrameForm.AsLetters : Enum.Parse<FrameForm>(Form),
            FrameGapMm = FrameGap,
            LetterGap = LetterGap,
            Name = Name,
            Order = AsRead ? InitialOrder.AsRead : InitialOrder.FamilyInMiddle,
        },
        Font,
        shapes)
    {
        Way = StorageKeys.Way(Way),
    };

    private static InvalidDataException Unknown(string what, string name) => new($"The stored job has a monogram with a {what} that is not known: {name}.");
}

/// <summary>What is wanted of a border, the numbers of the pieces that it goes around, and the outline of those: x, y, x, y. Its own shapes stand among the shapes.</summary>
internal sealed record StoredBorder(string Frame, string Form, string Sides, double Distance, bool Sharp, int[] Around, double[] Outline, StoredMotif? Own = null)
{
    public static StoredBorder Of(BorderContent content) => new(
        content.Wish.Frame.Id, content.Wish.Form.ToString(), content.Wish.Sides.ToString(), content.Wish.DistanceMm, content.Wish.SharpCorners, [.. content.Around.Select(p => p.Value)], [.. content.Outline.SelectMany(p => new[] { p.X, p.Y })],
        content.Wish.Frame.Own is { } own ? new(own.Name, Convert.ToBase64String(ShapeBytes.Write(own.Shape)), StoredStitching.Of(own.Settings)) : null);

    public BorderContent ToContent(ImmutableArray<DrawingShape> shapes) => new(
        new(Own?.ToFrame() ?? MonogramFrame.Find(Frame) ?? throw new InvalidDataException($"The stored job has a border of a kind that is not known: {Frame}."))
        {
            Form = Enum.Parse<FrameForm>(Form),
            Sides = Enum.Parse<BorderSides>(Sides),
            DistanceMm = Distance,
            SharpCorners = Sharp,
        },
        [.. Around.Select(n => new PieceId(n))],
        Outline.Length % 2 == 0 ? [.. Outline.Chunk(2).Select(p => new Point(p[0], p[1]))] : throw new InvalidDataException("The stored job has a border that goes around nothing."),
        shapes);
}

/// <summary>Something drawn that a border is made of: its bytes as shapes have them (base64), and how it is stitched.</summary>
internal sealed record StoredMotif(string Name, string Shape, StoredStitching Stitching)
{
    public MonogramFrame ToFrame()
    {
        try
        {
            return MonogramFrame.Of(new(Name, ShapeBytes.Read(Convert.FromBase64String(Shape)), Stitching.ToSettings()));
        }
        catch (Exception e) when (e is FormatException or EditRefusedException)
        {
            throw new InvalidDataException("The stored job has a border made of something that cannot be read.", e);
        }
    }
}
