using System.Collections.Immutable;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Cutting;

/// <summary>A piece of cloth that is cut out.</summary>
/// <param name="Key">The line of its outer edge.</param>
/// <param name="Name">As the user reads it.</param>
/// <param name="Material">What it is cut from.</param>
/// <param name="Rings">Its edges with the allowance, the outer one first; none repeats its first point, mm where they lie in the job.</param>
/// <param name="SquareMm">Its size, mm².</param>
public sealed record CutPiece(CutKey Key, string Name, string Material, ImmutableArray<ImmutableArray<Point>> Rings, double SquareMm)
{
    /// <summary>The rectangle about it.</summary>
    public Box Bounds { get; } = Box.Around(Rings[0]);
}

/// <summary>Something about cut lines that the user should know.</summary>
/// <param name="Line">Which line; null: all.</param>
/// <param name="Says">What is the matter, in a sentence.</param>
/// <param name="Advice">What to do about it.</param>
/// <param name="Serious">The piece cannot be cut, or not as it should be.</param>
public sealed record CutFinding(CutKey? Line, string Says, string Advice, bool Serious);

/// <summary>The pieces that come of cut lines and an allowance.</summary>
/// <param name="All">The pieces, in the order of their lines.</param>
/// <param name="Findings">What should be known.</param>
public sealed record CutPieces(ImmutableArray<CutPiece> All, ImmutableArray<CutFinding> Findings)
{
    /// <summary>What pieces are cut from unless the user says otherwise.</summary>
    public const string UsualMaterial = "Cloth";

    private const double SmallestWindow = 1;
    private const double Nearly = 1e-6;

    private sealed class Nested(CutLine line)
    {
        public CutLine Line { get; } = line;

        public Area Area { get; } = Area.Of([line.Line.Points])[0];

        public Nested? Parent { get; set; }

        public bool IsWindow { get; set; }

        public List<Nested> Windows { get; } = [];
    }

    /// <summary>The pieces of lines.</summary>
    /// <param name="lines">The lines.</param>
    /// <param name="allowance">How far cut lines lie outside stitch lines, mm.</param>
    public static CutPieces Of(CutLines lines, double allowance)
    {
        var findings = new List<CutFinding>();
        foreach (var (part, says) in lines.None) findings.Add(new(new(part, 0), says, "Choose its outer edge, or another part.", true));
        foreach (var line in lines.All.Where(l => !l.Change.Dropped)) Look(line, findings);
        var nested = lines.Cut.Where(l => Area.Of([l.Line.Points]).Count > 0).Select(l => new Nested(l)).OrderByDescending(n => n.Area.SquareMm).ToList();
        Nest(nested, findings);
        var pieces = nested.Where(n => !n.IsWindow).Select(n => (n.Line, Piece: Cut(n, allowance, findings))).ToList();
        var order = lines.All.Select((l, i) => (l.Key, i)).ToDictionary(l => l.Key, l => l.i);
        ImmutableArray<CutPiece> all = [.. pieces.OrderBy(p => order[p.Line.Key]).Select(p => p.Piece)];
        if (all.IsEmpty) findings.Insert(0, new(null, lines.All.IsEmpty ? "Nothing is chosen to be cut." : "No line is left that could be cut.", "Choose a part whose line is cut: a placement line, a tack-down, a shape.", true));
        return new(all, [.. findings]);
    }

    private static void Look(CutLine line, List<CutFinding> findings)
    {
        if (!line.Line.Closed)
            findings.Add(new(line.Key, $"“{line.Name}” does not close: its ends lie {LengthText.Decimals(line.Line.GapMm, 1)} mm apart.", "Join its ends, or drop it.", true));
        else if (line.CrossesItself)
            findings.Add(new(line.Key, $"“{line.Name}” crosses itself; its outer edge is cut.", "Leave the wrong stretch out, or take another line.", true));
        else if (line.Line.GapMm > 0.5)
            findings.Add(new(line.Key, $"“{line.Name}” was open by {LengthText.Decimals(line.Line.GapMm, 1)} mm and is closed.", "Look at the place where its ends met.", false));
    }

    /// <summary>Which line lies in which; lines that cross lie in none.</summary>
    private static void Nest(List<Nested> nested, List<CutFinding> findings)
    {
        for (var i = 0; i < nested.Count; i++)
        {
            for (var k = i - 1; k >= 0; k--)
            {
                var (inner, outer) = (nested[i], nested[k]);
                if (!outer.Area.Bounds.Grown(Nearly).Meets(inner.Area.Bounds)) continue;
                if (LineDistance.Between([inner.Line.Line.AsPath], [outer.Line.Line.AsPath]) < Nearly)
                {
                    findings.Add(new(inner.Line.Key, $"“{inner.Line.Name}” and “{outer.Line.Name}” cross.", "Drop one of them, or cut them as pieces by themselves one after the other.", true));
                    continue;
                }

                if (inner.Parent is not null || outer.Area.DistanceTo(inner.Line.Line.Points[0]) > 0) continue;
                inner.Parent = outer;
                inner.IsWindow = !outer.IsWindow && !inner.Line.Change.OwnPiece;
                if (inner.IsWindow) outer.Windows.Add(inner);
            }
        }
    }

    private static CutPiece Cut(Nested outer, double allowance, List<CutFinding> findings)
    {
        var line = outer.Line;
        var shape = Region.Of([outer.Area]);
        foreach (var window in outer.Windows) shape = Region.Of(shape.Areas.SelectMany(a => a.Without(Region.Of([window.Area])).Areas));
        var grown = shape.GrownFinely(allowance).Simplified(0.01).Areas.OrderByDescending(a => a.SquareMm).First();
        // A patch is cut around, never out of its middle.
        var windows = line.From == CutLineFrom.Edge ? [] : grown.Rings.Skip(1).Where(r => Box.Around(r) is var b && Math.Max(b.Width, b.Height) >= SmallestWindow).ToList();
        foreach (var window in outer.Windows)
        {
            var left = windows.Count(w => window.Area.DistanceTo(w[0]) <= Nearly);
            if (left == 0)
                findings.Add(new(window.Line.Key, $"“{window.Line.Name}” closes up: as a window it shrinks by {LengthText.Decimals(allowance, 1)} mm all round.", "Take a smaller allowance, or cut it as a piece by itself.", true));
            else if (left > 1)
                findings.Add(new(window.Line.Key, $"“{window.Line.Name}” falls apart into {left} windows, since it shrinks by {LengthText.Decimals(allowance, 1)} mm all round.", "Take a smaller allowance, or cut it as a piece by itself.", true));
        }

        var bays = windows.Count(w => !outer.Windows.Exists(o => o.Area.DistanceTo(w[0]) <= Nearly));
        if (bays > 0)
            findings.Add(new(line.Key, $"“{line.Name}” meets itself with an allowance of {LengthText.Decimals(allowance, 1)} mm and closes {(bays == 1 ? "a bay" : $"{bays} bays")}.", "Take a smaller allowance if the cloth shall not lie there.", false));
        return new(line.Key, line.Name, line.Change.Material.Length > 0 ? line.Change.Material : UsualMaterial, [[.. grown.Rings.First()], .. windows.Select(w => w.ToImmutableArray())], grown.SquareMm);
    }

    /// <summary>Pieces of one material that would lie over each other on the cloth, since their lines are nearer than twice the allowance; those that lie in others by themselves left out.</summary>
    public IEnumerable<(CutPiece One, CutPiece Other, double ApartMm)> Overlapping(CutLines lines)
    {
        for (var i = 0; i < All.Length; i++)
        {
            for (var k = i + 1; k < All.Length; k++)
            {
                if (!All[i].Bounds.Meets(All[k].Bounds)) continue;
                var (one, other) = (Area.Of([All[i].Rings[0]])[0], Area.Of([All[k].Rings[0]])[0]);
                if (!one.Meets(other) || LineDistance.Between([Ring(All[i])], [Ring(All[k])]) > 0) continue;
                yield return (All[i], All[k], LineDistance.Between([LineOf(lines, All[i])], [LineOf(lines, All[k])]));
            }
        }
    }

    private static IReadOnlyList<Point> Ring(CutPiece piece) => [.. piece.Rings[0], piece.Rings[0][0]];

    private static IReadOnlyList<Point> LineOf(CutLines lines, CutPiece piece) => lines.All.First(l => l.Key == piece.Key).Line.AsPath;
}
