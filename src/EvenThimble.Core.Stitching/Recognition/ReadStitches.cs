using System.Collections.Immutable;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Recognition;

/// <summary>Stitches together with what they were read as.</summary>
/// <param name="Stitches">All records.</param>
/// <param name="Passages">The passages in the order they are sewn.</param>
public sealed record ReadStitches(StitchBlob Stitches, ImmutableArray<Passage> Passages)
{
    /// <summary>Reads all records of a blob.</summary>
    public static ReadStitches Of(StitchBlob stitches) => Of(stitches, []);

    /// <summary>Reads all records of a blob; what was told of some by hand holds.</summary>
    public static ReadStitches Of(StitchBlob stitches, IReadOnlyList<ToldReading> told) => new(stitches, Corrections.Apply(stitches, StitchReader.Read(stitches), told));

    /// <summary>What of them was told by hand.</summary>
    public IReadOnlyList<ToldReading> Told => [.. Passages.Where(p => p.Told is not null).Select(p => new ToldReading(p.First, p.Last, p.Told!.Value))];

    /// <summary>The kind that most stitches are, ties aside; null when no kind has most of them.</summary>
    public PassageKind? Kind
    {
        get
        {
            const double most = 0.8;
            var seen = Passages.Where(p => p.Kind != PassageKind.Tie && !p.IsUnder).ToList();
            var all = seen.Sum(p => p.Stitches);
            return seen.GroupBy(p => p.Kind).Where(g => g.Sum(p => p.Stitches) >= most * all).Select(g => (PassageKind?)g.Key).FirstOrDefault();
        }
    }

    /// <summary>Whether more of what is seen is satin than rows.</summary>
    public bool MostIsSatin => Passages.Where(p => p.HasSpacing && !p.IsUnder).Sum(p => p.Kind == PassageKind.Satin ? p.Stitches : -p.Stitches) > 0;

    /// <summary>How sure that is, 0 to 1, the mean over all stitches.</summary>
    public double Confidence
    {
        get
        {
            var all = Passages.Where(p => p.Kind != PassageKind.Tie).ToList();
            var stitches = all.Sum(p => (double)p.Stitches);
            return stitches == 0 ? 0 : all.Sum(p => p.Confidence * p.Stitches) / stitches;
        }
    }

    /// <summary>Whether most of its fill, by stitches, is in rings.</summary>
    public bool InRings => Passages.Where(p => p.Kind == PassageKind.Fill).Sum(p => p.InRings ? p.Stitches : -p.Stitches) > 0;

    /// <summary>Which part of its stitches, ties aside, was not understood, 0 to 1.</summary>
    public double NotUnderstood
    {
        get
        {
            var all = Passages.Where(p => p.Kind != PassageKind.Tie).ToList();
            return all.Count == 0 ? 0 : all.Where(p => p.Confidence < Passage.Sure).Sum(p => p.Stitches) / (double)Math.Max(1, all.Sum(p => p.Stitches));
        }
    }

    /// <summary>Usual spacing of what is seen (the median stitch's), mm; 0 where nothing has one.</summary>
    public double SpacingMm
    {
        get
        {
            var seen = Passages.Where(p => p.HasSpacing && !p.IsUnder && p.Confidence >= Passage.Sure).OrderBy(p => p.SpacingMm).ToList();
            var half = seen.Sum(p => p.Stitches) / 2;
            foreach (var passage in seen)
            {
                half -= passage.Stitches;
                if (half <= 0) return passage.SpacingMm;
            }

            return 0;
        }
    }

    /// <summary>Stitches that lie under others of the same part.</summary>
    public int Under => Passages.Where(p => p.IsUnder).Sum(p => p.Stitches);
}
