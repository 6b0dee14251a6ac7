using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing.Lines;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Recognition;

namespace EvenThimble.Core.Respacing;

/// <summary>Lines at their own stitch: between their corners the stitches are divided anew.</summary>
internal static class LineMaking
{
    private const double CornerDegrees = 35;
    private const double SamePlace = 0.3;

    /// <summary>Appends a line to what is made.</summary>
    public static void Make(Remaking making, Passage passage)
    {
        var triple = passage.Kind == PassageKind.TripleRun;
        var line = triple ? Single(making, passage) : [.. Enumerable.Range(passage.First, passage.Stitches + 1).Select(making.Sized)];
        var sewn = Divided(line, Math.Max(passage.StitchLength, Limits.ShortestStitch));
        making.Run.AddRange((triple ? RunLine.Tripled(sewn) : sewn).Skip(1));
    }

    private static List<Point> Divided(List<Point> line, double stitch)
    {
        var sewn = new List<Point> { line[0] };
        var from = 0;
        for (var i = 1; i < line.Count; i++)
        {
            if (i < line.Count - 1 && TurnAt(line, i) < CornerDegrees) continue;
            var piece = line.GetRange(from, i - from + 1);
            foreach (var p in Polylines.Divided(piece, Math.Max(1, (int)Math.Round(Polylines.Length(piece) / stitch))).Skip(1))
                if (sewn[^1].DistanceTo(p) >= Limits.ShortestStitch)
                    sewn.Add(p);
            from = i;
        }

        // The end is where the next passage begins.
        if (sewn[^1] == line[^1]) return sewn;
        if (sewn.Count > 1 && sewn[^1].DistanceTo(line[^1]) < Limits.ShortestStitch) sewn[^1] = line[^1];
        else sewn.Add(line[^1]);
        return sewn;
    }

    /// <summary>The line under a triple run.</summary>
    private static List<Point> Single(Remaking making, Passage passage)
    {
        var line = new List<Point> { making.Sized(passage.First) };
        for (var i = passage.First; i < passage.Last;)
        {
            i += i + 3 <= passage.Last && making.Was(i).DistanceTo(making.Was(i + 2)) < SamePlace && making.Was(i + 1).DistanceTo(making.Was(i + 3)) < SamePlace ? 3 : 1;
            line.Add(making.Sized(i));
        }

        return line;
    }

    private static double TurnAt(List<Point> line, int i)
    {
        var (a, b) = (line[i] - line[i - 1], line[i + 1] - line[i]);
        return Math.Abs(Math.Atan2(a.Cross(b), a.Dot(b))) * 180 / Math.PI;
    }
}
