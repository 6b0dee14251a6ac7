using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing.Lines;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Recognition;

namespace EvenThimble.Core.Respacing;

/// <summary>Lines at their own stitch: between their corners the stitches are divided anew, the same there and back.</summary>
internal static class LineMaking
{
    private const double CornerDegrees = 35;

    /// <summary>Appends a line to what is made.</summary>
    public static void Make(Remaking making, Passage passage)
    {
        var stitch = Math.Max(passage.StitchLength, Limits.ShortestStitch);
        if (passage.SharesHoles)
        {
            InSharedHoles(making, passage, stitch);
            return;
        }

        // Of a line of manifold stitches every so many needle points one is farther on.
        List<Point> line = [.. Enumerable.Range(0, (passage.Stitches / passage.Fold) + 1).Select(k => making.Sized(passage.First + (k * passage.Fold)))];
        if (passage.Stitches % passage.Fold > 0) line.Add(making.Sized(passage.Last));
        var sewn = Divided(line, stitch);
        making.Run.AddRange(RunLine.Folded(sewn, passage.Fold).Skip(1));
    }

    private static List<Point> Divided(List<Point> line, double stitch)
    {
        var sewn = new List<Point> { line[0] };
        var from = 0;
        for (var i = 1; i < line.Count; i++)
        {
            if (i < line.Count - 1 && TurnAt(line[i - 1], line[i], line[i + 1]) < CornerDegrees) continue;
            Add(sewn, line.GetRange(from, i - from + 1), stitch);
            from = i;
        }

        // The end is where the next passage begins.
        if (sewn[^1] == line[^1]) return sewn;
        if (sewn.Count > 1 && sewn[^1].DistanceTo(line[^1]) < Limits.ShortestStitch) sewn[^1] = line[^1];
        else sewn.Add(line[^1]);
        return sewn;
    }

    private static void Add(List<Point> sewn, List<Point> piece, double stitch)
    {
        foreach (var p in Polylines.Divided(piece, Math.Max(1, (int)Math.Round(Polylines.Length(piece) / stitch))).Skip(1))
            if (sewn[^1].DistanceTo(p) >= Limits.ShortestStitch)
                sewn.Add(p);
    }

    /// <summary>
    /// A line that comes back through its holes: holes where it forks, ends or turns stay; what lies between two of them is divided the same way whichever way it is sewn, so that thread lies on thread and
    /// needle point on needle point.
    /// </summary>
    private static void InSharedHoles(Remaking making, Passage passage, double stitch)
    {
        var was = Enumerable.Range(passage.First, passage.Stitches + 1).Select(making.Was).ToList();
        var grid = new HoleGrid([.. was], 0, was.Count - 1);
        var holes = was.ConvertAll(grid.First);
        var beside = holes.Distinct().ToDictionary(h => h, _ => new HashSet<int>());
        for (var i = 1; i < holes.Count; i++)
        {
            if (holes[i] == holes[i - 1]) continue;
            beside[holes[i]].Add(holes[i - 1]);
            beside[holes[i - 1]].Add(holes[i]);
        }

        Point At(int hole) => making.Sized(passage.First + hole);
        bool Stays(int hole) => beside[hole].Count != 2 || TurnAt(At(beside[hole].First()), At(hole), At(beside[hole].Last())) >= CornerDegrees;
        var piece = new List<Point> { At(holes[0]) };
        for (var i = 1; i < holes.Count; i++)
        {
            if (holes[i] == holes[i - 1]) continue;
            piece.Add(At(holes[i]));
            if (i < holes.Count - 1 && !Stays(holes[i])) continue;
            Add(making.Run, piece, stitch);
            piece = [At(holes[i])];
        }

        making.EndAt(making.Sized(passage.Last));
    }

    private static double TurnAt(Point before, Point at, Point after) => Math.Abs(Turn.Between(at - before, after - at));
}
