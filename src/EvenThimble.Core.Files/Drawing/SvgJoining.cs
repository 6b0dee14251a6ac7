using EvenThimble.Core.Colour;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Files.Drawing;

/// <summary>
/// Joins shapes of one colour, so that a drawing of very many comes to fewer. A shape goes to an earlier one only where it overlaps neither that nor anything that is painted between; so the
/// picture stays the same.
/// </summary>
internal static class SvgJoining
{
    private const int LooksBack = 400;

    private sealed class Group(SvgShape first)
    {
        public SvgShape First { get; } = first;

        public List<ShapePath> Paths { get; } = [.. first.Shape.Paths];

        public List<Box> Boxes { get; } = [Reach(first)];

        public Box Around { get; set; } = Reach(first);

        public int Nodes { get; set; } = first.Shape.Paths.Sum(p => p.Nodes.Length);

        public bool Overlaps(Box box) => Meets(Around, box) && Boxes.Exists(b => Meets(b, box));
    }

    /// <summary>The shapes, some of them joined; in the order they are painted.</summary>
    public static List<SvgShape> Joined(IReadOnlyList<SvgShape> shapes)
    {
        var groups = new List<Group>();
        foreach (var shape in shapes)
        {
            var (box, nodes) = (Reach(shape), shape.Shape.Paths.Sum(p => p.Nodes.Length));
            var home = (Group?)null;
            for (var i = groups.Count - 1; i >= Math.Max(0, groups.Count - LooksBack); i--)
            {
                WorkBudget.Current.Spend(1 + (groups[i].Boxes.Count / 32));
                var group = groups[i];
                var touches = group.Overlaps(box);
                if (!touches && IsLike(group.First, shape) && group.Nodes + nodes <= DrawnShape.MostNodes)
                {
                    home = group;
                    break;
                }

                if (touches) break;
            }

            if (home is null)
            {
                groups.Add(new(shape));
                continue;
            }

            home.Paths.AddRange(shape.Shape.Paths);
            home.Boxes.Add(box);
            home.Around = home.Around.With(box);
            home.Nodes += nodes;
        }

        return groups.ConvertAll(g => g.Boxes.Count == 1 ? g.First : g.First with { Name = $"{g.First.Name} and {g.Boxes.Count - 1} more", Shape = new DrawnShape([.. g.Paths], g.First.Shape.Rule) });
    }

    private static bool IsLike(SvgShape a, SvgShape b) => a.Colour == b.Colour && a.LineWidth == b.LineWidth && a.Shape.Rule == b.Shape.Rule;

    private static Box Reach(SvgShape shape) => shape.Shape.Bounds.Grown((shape.LineWidth ?? 0) / 2);

    private static bool Meets(Box a, Box b) => a.MinX <= b.MaxX && b.MinX <= a.MaxX && a.MinY <= b.MaxY && b.MinY <= a.MaxY;
}
