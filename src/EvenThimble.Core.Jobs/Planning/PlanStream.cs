using System.Buffers.Binary;
using System.Runtime.InteropServices;

namespace EvenThimble.Core.Planning;

/// <summary>
/// The sewing plan as bytes for the drawing script, little-endian: <c>EVPL</c>, u32 version (1), u32 records, u32 parts; for each part
/// u32 id, u32 first, u32 count; then float32 x and y of every record in turn (mm), then one byte of kind for each.
/// Threads and names are not in it: they change without the stitches changing.
/// </summary>
public static class PlanStream
{
    private const int HeaderBytes = 16;
    private const int PartBytes = 12;
    private const int Version = 1;

    /// <summary>The bytes of a plan.</summary>
    public static byte[] Write(SewingPlan plan)
    {
        var records = plan.Records;
        var bytes = new byte[HeaderBytes + (plan.Parts.Length * PartBytes) + (records.Count * (2 * sizeof(float) + 1))];
        "EVPL"u8.CopyTo(bytes);
        WriteU32(bytes, 4, Version);
        WriteU32(bytes, 8, records.Count);
        WriteU32(bytes, 12, plan.Parts.Length);
        var at = HeaderBytes;
        foreach (var part in plan.Parts)
        {
            WriteU32(bytes, at, part.Id.Value);
            WriteU32(bytes, at + 4, part.First);
            WriteU32(bytes, at + 8, part.Count);
            at += PartBytes;
        }

        var places = MemoryMarshal.Cast<byte, float>(bytes.AsSpan(at, records.Count * 2 * sizeof(float)));
        for (var i = 0; i < records.Count; i++)
        {
            places[2 * i] = (float)records.X[i];
            places[(2 * i) + 1] = (float)records.Y[i];
        }

        MemoryMarshal.AsBytes(records.Kinds).CopyTo(bytes.AsSpan(at + (records.Count * 2 * sizeof(float))));
        return bytes;
    }

    private static void WriteU32(byte[] bytes, int at, int value) => BinaryPrimitives.WriteInt32LittleEndian(bytes.AsSpan(at), value);
}
