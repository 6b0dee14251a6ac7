using EvenThimble.Core.Geometry;
using EvenThimble.Core.Recognition;
using EvenThimble.Core.Respacing;
using EvenThimble.Core.Stitches;
using Shouldly;
using Xunit;

namespace EvenThimble.Core.Tests.Respacing;

/// <summary>Every end of a thread that was tied is tied at any size, whatever the form of the tie and whatever is sewn from it.</summary>
public class TieTests
{
    /// <summary>Small stitches that hold the thread, from the place where the stitching begins, along x; mm.</summary>
    private static readonly Dictionary<string, Point[]> Forms = new()
    {
        ["to and fro"] = [new(0, 0), new(0.7, 0), new(0, 0), new(0.7, 0), new(0, 0)],
        ["to and fro, large"] = [new(0, 0), new(1, 0), new(0, 0), new(1, 0), new(0, 0)],
        ["across"] = [new(0, 0), new(0, 0.6), new(0, 0), new(0, 0.6), new(0, 0)],
        ["triangle"] = [new(0, 0), new(0.8, 0.4), new(0.8, -0.4), new(0, 0)],
        ["triangle twice"] = [new(0, 0), new(0.7, 0.4), new(0.7, -0.4), new(0, 0), new(0.7, 0.4), new(0.7, -0.4), new(0, 0)],
        ["star"] = [new(0, 0), new(0.6, 0), new(0, 0), new(-0.3, 0.5), new(0, 0), new(-0.3, -0.5), new(0, 0)],
        ["cross"] = [new(0, 0), new(0.5, 0), new(0, 0), new(0, 0.5), new(0, 0), new(-0.5, 0), new(0, 0), new(0, -0.5), new(0, 0)],
        ["steps forward"] = [new(-1.8, 0), new(-1.2, 0), new(-0.6, 0), new(0, 0)],
        ["tiny steps"] = [new(-1.6, 0), new(-1.2, 0), new(-0.8, 0), new(-0.4, 0), new(0, 0)],
    };

    private static readonly Dictionary<string, Point[]> Sewn = new()
    {
        ["run"] = [.. Enumerable.Range(1, 20).Select(i => new Point(2.4 * i, 0.3 * Math.Sin(i)))],
        ["satin"] = [.. Enumerable.Range(1, 120).Select(i => new Point(0.2 * i, i % 2 == 0 ? -2 : 2))],
        ["fill"] = [.. Enumerable.Range(0, 30).SelectMany(k => Enumerable.Range(0, 8).Select(s => new Point(3 * (k % 2 == 0 ? s : 7 - s), 0.4 * k))).Skip(1)],
    };

    private static StitchBlob Tied(Point[] form, Point[] sewn, Func<Point, Point> moved)
    {
        var builder = new StitchBuilder();
        builder.Jump(moved(form[0]));

        // The same tie at the end, turned about so that it leads out of what is sewn.
        var end = sewn[^1];
        foreach (var p in form.Concat(sewn).Concat(form.Reverse().Select(p => end - p).Skip(1))) builder.Stitch(moved(p));
        builder.Trim();
        return builder.ToBlob();
    }

    public static TheoryData<double> Sizes() => [0.5, 0.6, 0.7, 0.85, 1.2, 1.5, 2.0];

    [Theory]
    [MemberData(nameof(Sizes))]
    public void They_stay_ties(double scale)
    {
        var lost = new List<string>();
        foreach (var (form, tie) in Forms)
            foreach (var (what, sewn) in Sewn)
                foreach (var (how, moved) in new (string, Func<Point, Point>)[] { ("", p => p), ("on tenths", p => new(Math.Round(p.X, 1), Math.Round(p.Y, 1))), ("turned", p => p.Turned(17, Point.Zero)) })
                {
                    var made = Respacer.Make(ReadStitches.Of(Tied(tie, sewn, moved)), new(scale, scale), default);
                    var stitches = Enumerable.Range(0, made.Count).Where(i => made.Kinds[i] == StitchKind.Stitch).Select(made.At).ToList();
                    if (!Holds(stitches)) lost.Add($"{form} before {what} {how}");
                    stitches.Reverse();
                    if (!Holds(stitches)) lost.Add($"{form} after {what} {how}");
                }

        lost.ShouldBeEmpty();
    }

    /// <summary>Three small stitches within the first millimetres.</summary>
    private static bool Holds(List<Point> stitches) => Enumerable.Range(1, 3).All(i => stitches[i].DistanceTo(stitches[i - 1]) is > 0.15 and < 1.15);
}
