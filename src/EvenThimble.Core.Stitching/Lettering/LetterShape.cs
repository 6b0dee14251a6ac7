using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;

namespace EvenThimble.Core.Lettering;

/// <summary>A letter, or letters that touch as those of a script do, as one shape to be sewn.</summary>
/// <param name="Text">The characters.</param>
/// <param name="Outline">Its outlines about its own origin, upright, mm: the same letter has the same wherever it stands.</param>
/// <param name="At">Where its origin lies, mm.</param>
/// <param name="TurnDegrees">By how much it is turned about it, clockwise.</param>
/// <param name="Letters">The letters, in the order of reading.</param>
public sealed record LetterShape(string Text, DrawnShape Outline, Point At, double TurnDegrees, IReadOnlyList<PlacedLetter> Letters)
{
    private const int Decimals = 6;

    /// <summary>The first of its letters.</summary>
    public PlacedLetter First => Letters[0];

    /// <summary>The last of them.</summary>
    public PlacedLetter Last => Letters[^1];

    /// <summary>Its outlines where they lie.</summary>
    public DrawnShape Placed => Outline.Moved(p => p.Turned(TurnDegrees, Point.Zero) + At);

    /// <summary>The lines around what it covers: where letters overlap, around both together.</summary>
    public DrawnShape Edge => new([.. Area.Of(Outline.Paths.Where(p => p.Closed).Select(p => p.Flattened()), Outline.Rule).SelectMany(a => a.Rings).Select(r => ShapePath.Through(r.Select(Rounded), closed: true))]);

    /// <summary>The shapes of a lettering in the order of reading: of each line, letters that touch the one before are taken together with it.</summary>
    public static IReadOnlyList<LetterShape> Of(LaidLettering laid)
    {
        var shapes = new List<LetterShape>();
        foreach (var line in laid.Letters.GroupBy(l => l.Line))
        {
            var together = new List<PlacedLetter>();
            foreach (var letter in line)
            {
                if (together.Count > 0 && !together.Exists(t => Touch(t, letter)))
                {
                    shapes.Add(Joined(together));
                    together.Clear();
                }

                together.Add(letter);
            }

            shapes.Add(Joined(together));
        }

        return shapes;
    }

    private static LetterShape Joined(List<PlacedLetter> letters)
    {
        var first = letters[0];
        Point Back(Point p) => Rounded((p - first.Baseline).Turned(-first.TurnDegrees, Point.Zero));
        var outline = letters.Count == 1 ? first.Outline : new([.. letters.SelectMany(l => l.Outline.Paths)], Inside.AnyWinding);
        return new(string.Concat(letters.Select(l => l.Text)), outline.Moved(Back), first.Baseline, first.TurnDegrees, [.. letters]);
    }

    private static Point Rounded(Point p) => new(Math.Round(p.X, Decimals), Math.Round(p.Y, Decimals));

    /// <summary>Whether two letters have a place in common: their outlines cross, or one begins inside the other.</summary>
    private static bool Touch(PlacedLetter a, PlacedLetter b)
    {
        if (!a.Box.Meets(b.Box)) return false;
        var (one, other) = (Edges(a), Edges(b));
        var (near, theirs) = (one.FindAll(e => Near(e, b.Box)), other.FindAll(e => Near(e, a.Box)));
        return near.Exists(e => theirs.Exists(f => Cross(e, f)))
            || (one.Count > 0 && other.Count > 0 && (Winds(other, one[0].A) || Winds(one, other[0].A)));
    }

    private static List<(Point A, Point B)> Edges(PlacedLetter letter) =>
        [.. letter.Outline.Paths.Where(p => p.Closed).Select(p => p.Flattened()).SelectMany(ring => ring.Select((p, i) => (p, ring[(i + 1) % ring.Count])))];

    private static bool Near((Point A, Point B) edge, Box box) =>
        Math.Max(edge.A.X, edge.B.X) >= box.MinX && Math.Min(edge.A.X, edge.B.X) <= box.MaxX && Math.Max(edge.A.Y, edge.B.Y) >= box.MinY && Math.Min(edge.A.Y, edge.B.Y) <= box.MaxY;

    private static bool Cross((Point A, Point B) one, (Point A, Point B) other)
    {
        double Side((Point A, Point B) line, Point p) => (line.B - line.A).Cross(p - line.A);
        return Side(one, other.A) * Side(one, other.B) <= 0 && Side(other, one.A) * Side(other, one.B) <= 0 && Near(one, Geometry.Box.Between(other.A, other.B));
    }

    /// <summary>Whether edges wind around a place.</summary>
    private static bool Winds(List<(Point A, Point B)> edges, Point place)
    {
        var winding = 0;
        foreach (var (a, b) in edges)
        {
            if (a.Y <= place.Y == b.Y <= place.Y) continue;
            if (a.X + ((place.Y - a.Y) / (b.Y - a.Y) * (b.X - a.X)) > place.X) winding += a.Y < b.Y ? 1 : -1;
        }

        return winding != 0;
    }
}
