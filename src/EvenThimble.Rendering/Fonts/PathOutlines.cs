using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;
using SkiaSharp;

namespace EvenThimble.Rendering.Fonts;

/// <summary>Paths as closed outlines with their curves.</summary>
internal static class PathOutlines
{
    /// <summary>The outlines of a path, each coordinate times a factor.</summary>
    public static List<ShapePath> Of(SKPath path, double scale)
    {
        var (outlines, nodes, points) = (new List<ShapePath>(), new List<PathNode>(), new SKPoint[4]);
        using var iterator = path.CreateRawIterator();
        for (var verb = iterator.Next(points); verb != SKPathVerb.Done; verb = iterator.Next(points))
        {
            switch (verb)
            {
                case SKPathVerb.Move:
                    End();
                    nodes.Add(new(At(0)));
                    break;
                case SKPathVerb.Line:
                    nodes.Add(new(At(1)));
                    break;
                case SKPathVerb.Quad or SKPathVerb.Conic:
                    // The same curve as a cubic.
                    Curve(At(0).Toward(At(1), 2 / 3.0), At(2).Toward(At(1), 2 / 3.0), At(2));
                    break;
                case SKPathVerb.Cubic:
                    Curve(At(1), At(2), At(3));
                    break;
            }
        }

        End();
        return outlines;

        Point At(int i) => new(points[i].X * scale, points[i].Y * scale);

        void Curve(Point leaving, Point arriving, Point to)
        {
            var last = nodes[^1];
            nodes[^1] = last with { Kind = NodeKind.Curve, Out = leaving - last.At };
            nodes.Add(new(to, NodeKind.Curve, arriving - to));
        }

        void End()
        {
            // An outline that comes back to its beginning has that point once.
            if (nodes.Count > 1 && nodes[0].At.DistanceTo(nodes[^1].At) < 1e-9)
            {
                nodes[0] = nodes[0] with { Kind = nodes[^1].Kind == NodeKind.Curve ? NodeKind.Curve : nodes[0].Kind, In = nodes[^1].In };
                nodes.RemoveAt(nodes.Count - 1);
            }

            if (nodes.Count > 1) outlines.Add(new([.. nodes], true));
            nodes.Clear();
        }
    }
}
