using EvenThimble.Core.Jobs;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Readiness;

/// <summary>Looks at the names that stand in the slots of a job.</summary>
internal static class NameFindings
{
    /// <summary>Names that are lower than their font sews well at.</summary>
    public static IEnumerable<Finding> Of(Job job, ILetterFaces? faces)
    {
        foreach (var piece in job.Pieces)
        {
            if (piece.Content is not NameSlotContent name || !name.Fit.HasFlag(SlotFit.BelowGood) || job.Order.All(p => p.Piece != piece.Id)) continue;
            var good = faces is not null && LetterFindings.Find(faces, name.Font) is { } face ? $", and {name.Font} sews well from {LengthText.Decimals(face.Measure.SmallestGoodMm, 1)} mm" : string.Empty;
            yield return new($"name-small-{piece.Id.Value}", FindingLevel.Attention,
                $"“{name.Text.ReplaceLineEndings(" / ")}” is small in its slot: capitals of {LengthText.Decimals(name.CapitalMm, 1)} mm{good}.",
                "Break it into lines, spell it shorter, allow a font for small text, or make the slot wider.");
        }
    }
}
