using EvenThimble.Core.Colour;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Threads;
using EvenThimble.Scenario;
using static EvenThimble.Core.Shapes.Outlines;

namespace EvenThimble.Core.Tests.Hoopings;

/// <summary>Made-up plans larger than a hoop, each of a seed and of one of several kinds.</summary>
internal static class LargeJobs
{
    private static readonly SewingThread[] Threads =
        [.. new[] { 0xC9962B, 0x2F4B7C, 0xA63A3C, 0x3A6B4A, 0xE9E4D6, 0x5A3A6B }.Select((c, i) => new SewingThread("Fenlight", $"{1000 + i}", $"thread {i}", Rgb.FromInt(c)))];

    public static IReadOnlyList<string> Kinds { get; } = ["scattered", "sky across", "sky down", "sky aslant", "long satins", "letters", "rings", "mixed"];

    /// <summary>A plan of a kind, about so large (mm).</summary>
    public static SewingPlan Make(string kind, int seed, double width, double height)
    {
        var (random, pen) = (new Random(seed), new DesignPen());
        var box = new Box(-width / 2, -height / 2, width / 2, height / 2);
        Point Anywhere(double off) => new(box.MinX + off + (random.NextDouble() * (width - (2 * off))), box.MinY + off + (random.NextDouble() * (height - (2 * off))));
        switch (kind)
        {
            case "sky across" or "sky down" or "sky aslant":
                pen.Take(Threads[1]);
                pen.Fill([[new(box.MinX, box.MinY), new(box.MaxX, box.MinY), new(box.MaxX, box.MaxY), new(box.MinX, box.MaxY)]], kind == "sky across" ? 0 : kind == "sky down" ? 90 : 30 + random.Next(30), 0.6);
                Stars(8);
                break;
            case "scattered":
                Stars(24);
                Blobs(10);
                break;
            case "long satins":
                for (var i = 0; i < 5; i++)
                {
                    pen.Take(Threads[i % Threads.Length]);
                    var x = box.MinX + ((i + 0.5) * width / 5);
                    pen.SatinAlong(Smooth(new(x, box.MinY), new(x + random.Next(-12, 12), -20), new(x + random.Next(-12, 12), 30), new(x, box.MaxY)), t => 2 + (3 * Math.Sin(t * Math.PI)));
                }

                Stars(6);
                break;
            case "letters":
                for (var row = 0; row < height / 22; row++)
                {
                    pen.Take(Threads[row % Threads.Length]);
                    for (var at = box.MinX; at < box.MaxX - 12; at += 14)
                    {
                        var foot = new Point(at, box.MinY + 18 + (row * 22));
                        pen.SatinAlong([foot, foot + new Point(4, -14)], _ => 2);
                        pen.SatinAlong([foot + new Point(4, -14), foot + new Point(8, 0)], _ => 2);
                    }
                }

                break;
            case "rings":
                for (var i = 0; i < 6; i++)
                {
                    pen.Take(Threads[i % Threads.Length]);
                    pen.SatinAlong(Circle(Anywhere(30), 14 + random.Next(14)), _ => 3.2, closed: true);
                }

                Blobs(6);
                break;
            default:
                Blobs(5);
                pen.Take(Threads[3]);
                pen.Fill([[new(box.MinX, -10), new(box.MaxX, -30), new(box.MaxX, 60), new(box.MinX, 40)]], 75, 0.6);
                pen.Take(Threads[4]);
                pen.SatinAlong(Smooth(new(box.MinX, box.MinY + 5), new(0, 0), new(box.MaxX, box.MaxY - 5)), _ => 4);
                Stars(10);
                break;
        }

        // The corners hold the size, whatever was thrown.
        pen.Take(Threads[2]);
        foreach (var corner in new Point[] { new(box.MinX + 4, box.MinY + 4), new(box.MaxX - 4, box.MaxY - 4) }) pen.Fill([Circle(corner, 4)], 20, 0.5);
        return PlanOf(pen.Finish($"{kind} {seed}"));

        void Stars(int count)
        {
            for (var i = 0; i < count; i++)
            {
                if (i % 4 == 0) pen.Take(Threads[random.Next(Threads.Length)]);
                var (at, size) = (Anywhere(10), 3 + (random.NextDouble() * 7));
                pen.SatinAlong([at + new Point(-size, 0), at + new Point(size, 0)], t => 0.6 + (2.4 * Math.Sin(t * Math.PI)));
                pen.SatinAlong([at + new Point(0, -size), at + new Point(0, size)], t => 0.6 + (2.4 * Math.Sin(t * Math.PI)));
            }
        }

        void Blobs(int count)
        {
            for (var i = 0; i < count; i++)
            {
                pen.Take(Threads[random.Next(Threads.Length)]);
                pen.Fill([Circle(Anywhere(25), 8 + (random.NextDouble() * 16))], random.Next(180), 0.5);
            }
        }
    }

    /// <summary>The plan of a design, each of its parts a part.</summary>
    public static SewingPlan PlanOf(StitchFile file) => new(file.Stitches, [.. file.Parts.Select((p, i) => new PlannedPart(new(i + 1), $"{p.Thread.Name} {i + 1}", p.Thread, p.Role, p.First, p.Count, file.Stitches.BoundsOf(p.First, p.Count)))]);
}
