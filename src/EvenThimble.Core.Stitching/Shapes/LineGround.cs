using EvenThimble.Core.Geometry;
using NetTopologySuite.Geometries;
using NetTopologySuite.Operation.Buffer;
using NetTopologySuite.Operation.Union;
using Point = EvenThimble.Core.Geometry.Point;

namespace EvenThimble.Core.Shapes;

/// <summary>The ground that lies within a distance of a line, however often it winds beside itself.</summary>
public static class LineGround
{
    // A line that winds is grown in pieces of so many points, which are then joined: grown whole, it would meet itself everywhere.
    private const int Piece = 40;

    /// <summary>The ground of an open line.</summary>
    /// <param name="line">The line, at least two points, mm.</param>
    /// <param name="distance">How far it reaches to either side, mm.</param>
    public static Region Of(IReadOnlyList<Point> line, double distance)
    {
        var pieces = new List<NetTopologySuite.Geometries.Geometry>();
        var round = new BufferParameters(6, EndCapStyle.Round, JoinStyle.Round, 2);
        for (var from = 0; from < line.Count - 1; from += Piece)
        {
            Work.WorkBudget.Current.Spend(20 * Piece);
            var points = Enumerable.Range(from, Math.Min(Piece + 1, line.Count - from)).Select(i => new Coordinate(line[i].X, line[i].Y)).ToArray();
            pieces.Add(Region.Factory.CreateLineString(points).Buffer(distance, round));
        }

        return new(UnaryUnionOp.Union(pieces) ?? Region.Factory.CreatePolygon());
    }
}
