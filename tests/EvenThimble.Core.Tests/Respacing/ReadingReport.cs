using System.Globalization;
using System.Text;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Recognition;
using EvenThimble.Core.Respacing;
using EvenThimble.Core.Stitches;
using Shouldly;
using Xunit;

namespace EvenThimble.Core.Tests.Respacing;

/// <summary>Measures how stitches of many makings are read and what becomes of their thread at other sizes, for <c>docs/bought-stitches.md</c>. Run by <c>./even-thimble shots</c>, not with the tests.</summary>
[Trait("Category", "shots")]
public class ReadingReport
{
    private static readonly double[] Sizes = [0.5, 0.7, 0.85, 1.2, 1.5, 2.0];

    private static readonly (string Name, Func<StitchBlob, StitchBlob> How)[] Ways =
    [
        ("as made", b => b), ("on tenths of a mm", BoughtStitches.OnTenths), ("every point up to 0.08 mm off", b => BoughtStitches.Damaged(b, "noise")), ("turned by 17°", b => BoughtStitches.Damaged(b, "turned")),
    ];

    private sealed record Kind(string Name, IReadOnlyList<StitchBlob> Designs, Func<Passage, bool> IsRight, bool HasSpacing = true);

    /// <summary>Designs by how they are made, and what each of their passages ought to be read as.</summary>
    private static IEnumerable<Kind> Kinds()
    {
        bool IsFill(Passage p) => p.Kind == PassageKind.Fill && !p.InRings;
        foreach (var joint in Enum.GetValues<BoughtStitches.Joint>())
            foreach (var inRow in Enum.GetValues<BoughtStitches.InRow>())
                yield return new($"straight rows joined by a {joint.ToString().ToLowerInvariant()}, needle points {Words(inRow)}", [.. BoughtStitches.All.Where(s => !s.IsSatin && s.Name.Contains($"{joint} {inRow}")).Select(s => s.Stitches)], IsFill);
        foreach (var name in new[] { "bar", "wave", "ring", "leaf", "wedge" })
            foreach (var slanted in new[] { true, false })
                yield return new($"satin, {name}, throws {(slanted ? "slanted both ways" : "square over, on the slant back")}", [.. BoughtStitches.All.Where(s => s.IsSatin && s.Name.StartsWith(name, StringComparison.Ordinal) && s.Name.EndsWith(slanted.ToString(), StringComparison.Ordinal)).Select(s => s.Stitches)], p => p.Kind == PassageKind.Satin);
        yield return new("rows that follow the edge inwards", [.. RingSamples.All.Where(s => s.Winds == 0).Select(s => s.Stitches)], p => p.InRings);
        yield return new("the same, cutting corners", [.. RingSamples.Rough.Where(s => s.Winds == 0).Select(s => s.Stitches)], p => p.InRings);
        yield return new("spirals", [.. RingSamples.All.Concat(RingSamples.Rough).Where(s => s.Winds > 0).Select(s => s.Stitches)], p => p.InRings);
        foreach (var (name, stitches) in RingFillTests.NotStraight()) yield return new(name, [stitches], p => p.Kind == PassageKind.Fill);
        foreach (var way in Makings.All.GroupBy(s => s.Way))
            yield return new(way.Key, [.. way.Select(s => s.Stitches)], p => MakingMeasures.IsRight(way.First().Truth, p), way.First().Truth is Makings.Truth.Fill or Makings.Truth.Satin);
    }

    private static string Words(BoughtStitches.InRow inRow) => inRow switch { BoughtStitches.InRow.Grid => "on lines", BoughtStitches.InRow.FromEdge => "counted from the edge", BoughtStitches.InRow.Even => "evenly", _ => "at random" };

    [Fact]
    public void Table_of_readings()
    {
        var (text, all, wrongAll) = (new StringBuilder(), 0, 0);
        var (from, wrongFrom, allFrom) = (new[] { 0.0, 0.5, 0.6, 0.7, 0.8, 0.9 }, new int[6], new int[6]);
        foreach (var (kind, designs, isRight, hasSpacing) in Kinds())
        {
            designs.ShouldNotBeEmpty(kind);
            var (stitches, right, wrong, unsure) = (0, 0, 0, 0);
            foreach (var (_, how) in Ways)
            {
                foreach (var passage in designs.SelectMany(d => ReadStitches.Of(how(d)).Passages).Where(p => p.Kind != PassageKind.Tie && !p.IsUnder))
                {
                    stitches += passage.Stitches;
                    if (passage.Confidence < Passage.Sure) unsure += passage.Stitches;
                    else if (isRight(passage)) right += passage.Stitches;
                    else wrong += passage.Stitches;
                    var bin = Array.FindLastIndex(from, f => passage.Confidence >= f - 1e-9);
                    allFrom[bin] += passage.Stitches;
                    if (!isRight(passage)) wrongFrom[bin] += passage.Stitches;
                }
            }

            (all, wrongAll) = (all + stitches, wrongAll + wrong);
            var dense = !hasSpacing ? [] : designs.Where(d => ReadStitches.Of(d).NotUnderstood < 0.03).SelectMany(d => Sizes.Select(size => Math.Abs(Density(d, size) - 1))).ToList();
            text.AppendLine(string.Create(CultureInfo.InvariantCulture, $"| {kind} | {designs.Count} | {100.0 * right / stitches:0.0} | {100.0 * unsure / stitches:0.0} | {100.0 * wrong / stitches:0.00} | {(dense.Count == 0 ? "–" : $"{100 * dense.Average():0.0} / {100 * dense.Max():0}")} |"));
        }

        text.AppendLine(string.Create(CultureInfo.InvariantCulture, $"| all | {Kinds().Sum(k => k.Designs.Count)} | | | {100.0 * wrongAll / all:0.00} | |"));
        Put("readings", "| how it is laid | designs | read rightly and surely % | not sure % | sure and wrong % | thread for its area, off from before % mean / most |\n|---|---|---|---|---|---|\n" + text);
        var bins = string.Concat(from.Select((f, i) => string.Create(CultureInfo.InvariantCulture, $"| {f:0.0} to {(i + 1 < from.Length ? from[i + 1] : 1):0.0} | {allFrom[i]} | {(allFrom[i] == 0 ? 0 : 100.0 * wrongFrom[i] / allFrom[i]):0.0} |\n")));
        Put("confidence", "| confidence | stitches | of them wrong % |\n|---|---|---|\n" + bins);
    }

    private static void Put(string mark, string table)
    {
        var file = Path.Combine(MadeUp.Repository, "docs", "bought-stitches.md");
        var document = File.ReadAllText(file);
        var (begin, end) = (document.IndexOf($"<!-- {mark} -->", StringComparison.Ordinal), document.IndexOf($"<!-- /{mark} -->", StringComparison.Ordinal));
        File.WriteAllText(file, document[..document.IndexOf('\n', begin)] + "\n\n" + table.Replace("\r", string.Empty) + "\n" + document[end..]);
    }

    /// <summary>Thread at a size against thread as it came, for the area that it is to cover.</summary>
    private static double Density(StitchBlob blob, double size) => StitchLook.Thread(Respacer.Make(ReadStitches.Of(blob), new(size, size), default)) / StitchLook.Thread(blob) / (size * size);
}
