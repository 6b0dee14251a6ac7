using System.Collections.Immutable;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Outlining;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Recognition;
using EvenThimble.Core.Shapes;

namespace EvenThimble.Core.Cutting;

/// <summary>The lines of a job that can be cut: of bought stitches those that they draw, of shapes and letters their outlines, of several together their outer edge.</summary>
/// <param name="All">All lines of the parts that were chosen, with what is set of them.</param>
/// <param name="Left">What was sewn with them and left out.</param>
/// <param name="None">Parts that draw no line, with a sentence each.</param>
public sealed record CutLines(ImmutableArray<CutLine> All, ImmutableArray<CutLeftOut> Left, ImmutableArray<(PartId Part, string Says)> None)
{
    /// <summary>The part of a key that stands for the outer edge of several.</summary>
    public static readonly PartId Edge = new(0);

    /// <summary>The lines that are cut.</summary>
    public IEnumerable<CutLine> Cut => All.Where(l => l.IsCut);

    /// <summary>The lines that a job has chosen.</summary>
    /// <param name="job">The job.</param>
    /// <param name="plan">Its plan.</param>
    public static CutLines Of(Job job, SewingPlan plan)
    {
        var (lines, left, none) = (new List<CutLine>(), new List<CutLeftOut>(), new List<(PartId, string)>());
        foreach (var id in job.Cutting.Parts)
        {
            if (job.Order.Find(id) is not { } part) continue;
            var (from, found) = LinesOf(part, plan);
            if (found.Lines.IsEmpty) none.Add((id, $"“{part.Name}” draws no line: cut around it instead."));
            left.AddRange(found.Left.Select(l => new CutLeftOut(id, l)));
            for (var i = 0; i < found.Lines.Length; i++)
            {
                var key = new CutKey(id, i);
                lines.Add(Changed(new(key, found.Lines.Length == 1 ? part.Name : $"{part.Name}, {i + 1}", from ?? (found.Lines[i].HalfWidth > 0 ? CutLineFrom.Middle : CutLineFrom.Run), found.Lines[i], job.Cutting.ChangeOf(key))));
            }
        }

        var around = plan.Parts.Where(p => job.Cutting.Around.Contains(p.Id)).ToList();
        var edges = OuterEdge.Of(plan.Records, [.. around.Select(p => (p.First, p.End))]);
        for (var i = 0; i < edges.Count; i++)
        {
            var key = new CutKey(Edge, i);
            lines.Add(Changed(new(key, edges.Count == 1 ? "The outer edge" : $"The outer edge, {i + 1}", CutLineFrom.Edge, edges[i], job.Cutting.ChangeOf(key))));
        }

        return new(EachOnce(lines), [.. left], [.. none]);
    }

    /// <summary>The lines of one part, and what they are taken from where that is the same for all.</summary>
    public static (CutLineFrom? From, FoundLines Found) LinesOf(Part part, SewingPlan plan)
    {
        if (part.Drawn is { } drawn) return (CutLineFrom.Shape, OfShape(part, drawn));
        if (plan.Parts.FirstOrDefault(p => p.Id == part.Id) is not { Count: > 0 } planned) return (null, FoundLines.None);
        return plan.Read(planned).Kind == PassageKind.Fill ? (null, FoundLines.None) : (null, StitchOutlines.Of(plan.Records, planned.First, planned.End));
    }

    /// <summary>The outlines of a shape where it lies: its outer edges and holes, and lines that do not close.</summary>
    private static FoundLines OfShape(Part part, PartSource.Drawn drawn)
    {
        Point[] Placed(IEnumerable<Point> points) => [.. points.Select(part.Placement.PlaceFinely)];
        var closed = drawn.Shape.Paths.Where(p => p.Closed && p.Nodes.Length > 1).Select(p => Placed(p.Flattened())).Where(p => p.Length > 2).ToList();
        var open = drawn.Shape.Paths.Where(p => !p.Closed && p.Nodes.Length > 1).Select(p => Placed(p.Flattened()));
        var rings = closed.Count == 0 ? [] : Area.Of(closed, drawn.Shape.Rule).SelectMany(a => a.Rings);
        return new(
            [.. rings.Select(r => new FoundLine([.. r], true)), .. open.Select(p => p.Length > 3 && p[0].DistanceTo(p[^1]) < 0.05 ? new FoundLine([.. p[..^1]], true) : new FoundLine([.. p], false) { GapMm = p[0].DistanceTo(p[^1]) })], []);
    }

    private static CutLine Changed(CutLine line)
    {
        var (found, change) = (line.Line, line.Change);
        if (change.Joined && !found.Closed && found.Points.Length > 2) found = found with { Closed = true };
        foreach (var bridged in change.Bridged) found = Bridged(found, bridged);
        return line with { Line = found, CrossesItself = found.Closed && found.Points.Length > 3 && Area.CrossesItself(found.Points) };
    }

    /// <summary>The line without a stretch; its ends are joined straight.</summary>
    private static FoundLine Bridged(FoundLine line, BridgedStretch stretch)
    {
        var path = new MeasuredLine([.. line.AsPath]);
        var (from, to) = (stretch.From * path.Length, stretch.To * path.Length);
        var kept = from <= to ? path.Between(to, path.Length).Concat(path.Between(0, from).Skip(line.Closed ? 1 : 0)) : path.Between(to, from);
        List<Point> points = [.. line.Closed || from > to ? kept : path.Between(0, from).Concat(path.Between(to, path.Length))];
        return line with { Points = [.. points.Where((p, i) => i == 0 || p != points[i - 1])] };
    }

    /// <summary>Where lines of several parts lie on one edge, the first that is not dropped is cut.</summary>
    private static ImmutableArray<CutLine> EachOnce(List<CutLine> lines)
    {
        var kept = new List<CutLine>();
        foreach (var line in lines)
        {
            var same = line.Line.Closed && !line.Change.Dropped ? kept.Find(k => k.IsCut && k.Key.Part != line.Key.Part && StitchOutlines.LiesOn(line.Line, k.Line)) : null;
            kept.Add(same is null ? line : line with { SameAs = same.Key });
        }

        return [.. kept];
    }
}
