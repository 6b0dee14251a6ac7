using System.Collections.Immutable;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Monograms;

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
