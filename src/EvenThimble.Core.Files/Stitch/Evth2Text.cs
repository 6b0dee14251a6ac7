using System.Text.Json;
using System.Text.Json.Nodes;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Files.Stitch;

/// <summary>The chunks of a revision 2 stitch file that hold JSON: <c>INFO</c> and <c>HOOP</c>.</summary>
internal static class Evth2Text
{
    private static readonly JsonDocumentOptions Strict = new() { MaxDepth = 8 };

    public static (string Title, int? Stitches) ReadInfo(ReadOnlySpan<byte> payload)
    {
        using var json = Parse(payload, "INFO");
        var title = json.RootElement.TryGetProperty("title", out var t) && t.ValueKind == JsonValueKind.String ? Titles.Clean(t.GetString()) : string.Empty;
        int? stitches = json.RootElement.TryGetProperty("stitches", out var s) && s.ValueKind == JsonValueKind.Number && s.TryGetInt32(out var n) ? n : null;
        return (title, stitches);
    }

    public static byte[] WriteInfo(StitchFile file) => JsonSerializer.SerializeToUtf8Bytes(new JsonObject
    {
        ["title"] = Titles.Clean(file.Title),
        ["width_mm"] = Math.Round(file.Bounds.Width, 2),
        ["height_mm"] = Math.Round(file.Bounds.Height, 2),
        ["stitches"] = file.StitchCount,
        ["made_with"] = "Even Thimble",
    });

    public static HoopNote ReadHoop(ReadOnlySpan<byte> payload)
    {
        using var json = Parse(payload, "HOOP");
        var root = json.RootElement;
        var hoop = root.TryGetProperty("hoop", out var h) && h.ValueKind == JsonValueKind.String ? Titles.Clean(h.GetString()) : string.Empty;
        double[] offset = root.TryGetProperty("offset_mm", out var o) && o.ValueKind == JsonValueKind.Array && o.GetArrayLength() == 2
            ? [.. o.EnumerateArray().Select(e => e.ValueKind == JsonValueKind.Number ? e.GetDouble() : 0)]
            : [0, 0];
        return new(hoop, Number(root, "placement"), Number(root, "placements"), offset[0], offset[1]);
    }

    public static byte[] WriteHoop(HoopNote hoop) => JsonSerializer.SerializeToUtf8Bytes(new JsonObject
    {
        ["hoop"] = hoop.Hoop,
        ["placement"] = hoop.Placement,
        ["placements"] = hoop.Placements,
        ["offset_mm"] = new JsonArray(hoop.OffsetX, hoop.OffsetY),
    });

    private static int Number(JsonElement root, string name) =>
        root.TryGetProperty(name, out var v) && v.ValueKind == JsonValueKind.Number && v.TryGetInt32(out var n) ? n : 1;

    private static JsonDocument Parse(ReadOnlySpan<byte> payload, string chunk)
    {
        try
        {
            var json = JsonDocument.Parse(payload.ToArray(), Strict);
            if (json.RootElement.ValueKind == JsonValueKind.Object) return json;
            json.Dispose();
        }
        catch (JsonException)
        {
            // Told below, in words.
        }

        throw new StitchFileException($"The {chunk} chunk of the stitch file is damaged: it is not the JSON object it should be. Copy the file again from where it came.");
    }
}
