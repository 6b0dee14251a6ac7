using System.Collections.Immutable;
using System.Text;
using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Shapes;

/// <summary>
/// The bytes that a shape is stored and hashed as, little-endian: u8 version (1), u8 rule (0 odd crossings, 1 any winding), u32 outlines; for each u8 closed, u32 points;
/// for each point u8 kind (0 corner, 1 smooth, 2 curve), x and y (doubles, mm), and of a curve both arms as x and y.
/// </summary>
public static class ShapeBytes
{
    private const byte Version = 1;
    private const double FarthestMm = 10_000;

    /// <summary>The bytes of a shape.</summary>
    public static byte[] Write(DrawnShape shape)
    {
        using var bytes = new MemoryStream();
        using var writer = new BinaryWriter(bytes, Encoding.UTF8);
        writer.Write(Version);
        writer.Write((byte)shape.Rule);
        writer.Write((uint)shape.Paths.Length);
        foreach (var path in shape.Paths)
        {
            writer.Write(path.Closed);
            writer.Write((uint)path.Nodes.Length);
            foreach (var node in path.Nodes)
            {
                writer.Write((byte)node.Kind);
                Write(writer, node.At);
                if (node.Kind != NodeKind.Curve) continue;
                Write(writer, node.In);
                Write(writer, node.Out);
            }
        }

        writer.Flush();
        return bytes.ToArray();
    }

    /// <summary>Reads what <see cref="Write(DrawnShape)"/> wrote.</summary>
    /// <exception cref="InvalidDataException">The bytes are not a stored shape.</exception>
    public static DrawnShape Read(byte[] bytes)
    {
        try
        {
            using var reader = new BinaryReader(new MemoryStream(bytes), Encoding.UTF8);
            if (reader.ReadByte() != Version) throw new InvalidDataException("A stored shape is of a later version of Even Thimble.");
            var rule = (Inside)reader.ReadByte();
            if (!Enum.IsDefined(rule)) throw Damaged();
            var left = DrawnShape.MostNodes;
            var paths = ImmutableArray.CreateBuilder<ShapePath>();
            for (var count = reader.ReadUInt32(); count > 0; count--)
            {
                var closed = reader.ReadBoolean();
                var nodes = reader.ReadUInt32();
                if (nodes > left) throw new InvalidDataException("A stored shape has too many points.");
                left -= (int)nodes;
                var path = ImmutableArray.CreateBuilder<PathNode>((int)nodes);
                for (; nodes > 0; nodes--) path.Add(Node(reader));
                paths.Add(new(path.MoveToImmutable(), closed));
            }

            return new(paths.ToImmutable(), rule);
        }
        catch (EndOfStreamException)
        {
            throw Damaged();
        }
    }

    private static PathNode Node(BinaryReader reader)
    {
        var kind = (NodeKind)reader.ReadByte();
        if (!Enum.IsDefined(kind)) throw Damaged();
        return kind == NodeKind.Curve ? new(Place(reader), kind, Place(reader), Place(reader)) : new(Place(reader), kind);
    }

    private static Point Place(BinaryReader reader)
    {
        var place = new Point(reader.ReadDouble(), reader.ReadDouble());
        return Math.Abs(place.X) <= FarthestMm && Math.Abs(place.Y) <= FarthestMm ? place : throw new InvalidDataException("A stored shape has a point that is nowhere.");
    }

    private static void Write(BinaryWriter writer, Point place)
    {
        writer.Write(place.X);
        writer.Write(place.Y);
    }

    private static InvalidDataException Damaged() => new("A stored shape is damaged.");
}
