using EvenThimble.Core.Geometry;
using EvenThimble.Core.Stitches;

namespace EvenThimble.Core.Tests.Respacing;

/// <summary>
/// Stitches made in plain ways that are not the engine's, as they come in bought designs: rows counted from the edge, from a grid or at random, joined by steps or on the slant, throws
/// square on one way and slanted on the other, needle points on a grid of a tenth of a millimetre.
/// </summary>
internal static class BoughtStitches
{
    /// <summary>How a row leads to the next.</summary>
    public enum Joint
    {
        /// <summary>A stitch along the edge.</summary>
        Step,

        /// <summary>The row itself runs on the slant.</summary>
        Slant,
    }

    /// <summary>Where the needle falls within rows.</summary>
    public enum InRow
    {
        /// <summary>On lines across all rows, shifted from row to row.</summary>
        Grid,

        /// <summary>Counted from where the row begins.</summary>
        FromEdge,

        /// <summary>In equal pieces.</summary>
        Even,

        /// <summary>Anywhere.</summary>
        Random,
    }

    /// <summary>What is sewn, and a line across its rows or along its throws.</summary>
    public sealed record Sample(string Name, StitchBlob Stitches, bool IsSatin, double Width, Point From, Point To)
    {
        /// <summary>Whether rows are long enough for the stitches at their ends not to tell.</summary>
        public bool HasLongRows => Name.StartsWith("rectangle", StringComparison.Ordinal);
    }

    /// <summary>Every sample.</summary>
    public static IReadOnlyList<Sample> All { get; } = [.. Fills(), .. Satins()];

    /// <summary>The sample with needle points where a machine file keeps them, on tenths of a millimetre.</summary>
    public static StitchBlob OnTenths(StitchBlob blob)
    {
        var builder = new StitchBuilder(blob.Count);
        for (var i = 0; i < blob.Count; i++) builder.Add(blob.Kinds[i], new(Math.Round(blob.At(i).X, 1), Math.Round(blob.At(i).Y, 1)));
        return builder.ToBlob();
    }

    /// <summary>As they are, on tenths of a millimetre, with every point a little off, turned.</summary>
    public static StitchBlob Damaged(StitchBlob blob, string how)
    {
        if (how == "tenths") return OnTenths(blob);
        var random = new Random(5);
        Point Moved(Point p) => how switch
        {
            "noise" => new(p.X + ((random.NextDouble() - 0.5) * 0.16), p.Y + ((random.NextDouble() - 0.5) * 0.16)),
            "turned" => p.Turned(17, Point.Zero),
            _ => p,
        };
        var builder = new StitchBuilder(blob.Count);
        for (var i = 0; i < blob.Count; i++) builder.Add(blob.Kinds[i], Moved(blob.At(i)));
        return builder.ToBlob();
    }

    private static IEnumerable<Sample> Fills()
    {
        foreach (var joint in Enum.GetValues<Joint>())
        {
            foreach (var inRow in Enum.GetValues<InRow>())
            {
                foreach (var spacing in new[] { 0.3, 0.4, 0.5 })
                {
                    yield return Fill($"rectangle {joint} {inRow} {spacing}", Box(40, 25), 0, spacing, 4, joint, inRow);
                    yield return Fill($"disc {joint} {inRow} {spacing}", Round(15), 0.6, spacing, 3.5, joint, inRow);
                }

                yield return Fill($"small disc {joint} {inRow}", Round(5), 1.2, 0.4, 3, joint, inRow);
                yield return Fill($"strip {joint} {inRow}", Box(60, 8), Math.PI / 4, 0.4, 4, joint, inRow);
                yield return Fill($"drop {joint} {inRow}", Drop(), 0.3, 0.4, 4, joint, inRow);
                yield return Fill($"triangle {joint} {inRow}", [new(0, 0), new(30, 0), new(12, 26)], 0, 0.4, 4, joint, inRow);
            }
        }
    }

    private static IEnumerable<Sample> Satins()
    {
        foreach (var slanted in new[] { true, false })
        {
            foreach (var spacing in new[] { 0.3, 0.4, 0.5 })
            {
                foreach (var width in new[] { 1.5, 3, 5, 6.5 })
                {
                    yield return Satin($"bar {width} {spacing} {slanted}", t => Turn(new(60 * t, 0), 0.2), _ => width, 60, spacing, slanted, [Turn(new(2, 0.07), 0.2), Turn(new(58, 0.07), 0.2)]);
                    yield return Satin($"wave {width} {spacing} {slanted}", t => new(70 * t, 8 * Math.Sin(t * 2 * Math.PI)), _ => width, 85, spacing, slanted, []);
                }

                yield return Satin($"ring {spacing} {slanted}", t => new Point(Math.Cos(t * 2 * Math.PI), Math.Sin(t * 2 * Math.PI)) * 15, _ => 4, 2 * Math.PI * 15, spacing, slanted, []);
                yield return Satin($"leaf {spacing} {slanted}", t => new(30 * t, 4 * Math.Sin(t * 2)), t => 0.6 + (5 * Math.Sin(t * Math.PI)), 32, spacing, slanted, []);
                yield return Satin($"wedge {spacing} {slanted}", t => new(40 * t, 10 * t), t => 0.8 + (6 * t), 41, spacing, slanted, []);
            }
        }
    }

    private static Sample Fill(string name, Point[] outline, double angle, double spacing, double stitch, Joint joint, InRow inRow)
    {
        var random = new Random(name.Length);
        var turned = outline.Select(p => Turn(p, -angle)).ToArray();
        var (top, bottom) = (turned.Min(p => p.Y), turned.Max(p => p.Y));
        var builder = new StitchBuilder();
        Tie(builder, Turn(new(Across(turned, top + (spacing / 2)).Left, top + (spacing / 2)), angle));
        var rows = (int)((bottom - top - spacing) / spacing);
        for (var k = 0; k <= rows; k++)
        {
            var y = top + (spacing / 2) + (k * spacing);
            var (left, right) = Across(turned, y);
            if (joint == Joint.Slant && k > 0) (left, right) = k % 2 == 0 ? (Across(turned, y - spacing).Left, right) : (left, Across(turned, y - spacing).Right);
            var length = right - left;
            IEnumerable<double> inside = inRow switch
            {
                InRow.Grid => Enumerable.Range(-40, 80).Select(n => (n * stitch) + (k * stitch / 3) - (Math.Floor(k / 3.0) * stitch) - left),
                InRow.FromEdge => Enumerable.Range(1, 40).Select(n => (n * stitch) - (k % 3 * stitch / 3)).Select(at => k % 2 == 0 ? at : length - at),
                InRow.Even => Enumerable.Range(1, Math.Max(0, (int)Math.Round(length / stitch) - 1)).Select(n => n * length / Math.Max(1, (int)Math.Round(length / stitch))),
                _ => Enumerable.Range(1, Math.Max(0, (int)(length / stitch))).Select(n => (n - 0.3 + (0.6 * random.NextDouble())) * stitch),
            };
            List<double> places = [0, .. inside.Where(at => at > 0.7 && at < length - 0.7).Order(), length];
            if (k % 2 == 1) places.Reverse();
            foreach (var at in places.Skip(joint == Joint.Slant && k > 0 ? 1 : 0))
            {
                // On the slant a row ends a row's distance further than it began.
                var part = length < 1e-9 ? 0 : k % 2 == 0 ? at / length : 1 - (at / length);
                var down = joint == Joint.Slant && k > 0 ? y - (spacing * (1 - part)) : y;
                builder.Stitch(Turn(new(left + at, down), angle));
            }
        }

        Tie(builder, builder.Needle);
        var middle = Turn(new((turned.Min(p => p.X) + turned.Max(p => p.X)) / 2, 0), angle);
        var way = Turn(new(0, 1), angle);
        var off = (way * -way.Dot(middle)) + Turn(new(0.37, 0), angle); // beside needle points
        return new(name, builder.ToBlob(), false, 0, middle + off + (way * (top + 1)), middle + off + (way * (bottom - 1)));
    }

    private static Sample Satin(string name, Func<double, Point> middle, Func<double, double> width, double length, double spacing, bool slanted, Point[] along)
    {
        // Slanted both ways the needle goes on half a spacing each throw; else square over and on the slant back.
        var builder = new StitchBuilder();
        Tie(builder, middle(0));
        for (var at = 1.0; at < length - 1; at += 2.5) builder.Stitch(middle(at / length)); // centre underlay
        for (var at = length - 2; at > 2; at -= 2.5) builder.Stitch(middle(at / length));
        var throws = (int)(2 * length / spacing);
        for (var k = 0; k <= throws; k++)
        {
            var t = (slanted ? k : k / 2 * 2) / (double)throws;
            var across = (middle(Math.Min(1, t + 0.001)) - middle(Math.Max(0, t - 0.001))).Unit();
            builder.Stitch(middle(t) + (new Point(-across.Y, across.X) * (width(t) / 2 * (k % 2 == 0 ? 1 : -1))));
        }

        Tie(builder, builder.Needle);
        return new(name, builder.ToBlob(), true, Enumerable.Range(0, 21).Max(k => width(k / 20.0)), along.FirstOrDefault(), along.LastOrDefault());
    }

    private static void Tie(StitchBuilder builder, Point at)
    {
        for (var k = 0; k < 4; k++) builder.Stitch(at + new Point(k % 2 * 0.7, 0));
    }

    private static (double Left, double Right) Across(Point[] outline, double y)
    {
        var hits = new List<double>();
        for (var i = 0; i < outline.Length; i++)
        {
            var (a, b) = (outline[i], outline[(i + 1) % outline.Length]);
            if (a.Y <= y == b.Y > y) hits.Add(a.X + ((b.X - a.X) * (y - a.Y) / (b.Y - a.Y)));
        }

        return hits.Count == 0 ? (0, 0) : (hits.Min(), hits.Max());
    }

    private static Point Turn(Point p, double angle) => new((p.X * Math.Cos(angle)) - (p.Y * Math.Sin(angle)), (p.X * Math.Sin(angle)) + (p.Y * Math.Cos(angle)));

    private static Point[] Box(double width, double height) => [new(0, 0), new(width, 0), new(width, height), new(0, height)];

    private static Point[] Round(double radius) => [.. Enumerable.Range(0, 90).Select(i => new Point(Math.Cos(i * Math.PI / 45), Math.Sin(i * Math.PI / 45)) * radius)];

    private static Point[] Drop() => [.. Enumerable.Range(0, 90).Select(i => i * Math.PI / 45).Select(t => new Point(14 * Math.Cos(t), 10 * Math.Sin(t) * Math.Sin(t / 2)))];
}
