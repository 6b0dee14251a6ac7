using System.Collections.Immutable;
using System.Globalization;
using System.Text;
using EvenThimble.Core.Cutting;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Files.Cut;

/// <summary>
/// Cut lines as DXF R12 in ASCII, as its published reference has it: closed polylines, a layer for each material, millimetres declared, y upwards from the near edge of the mat. Read are the
/// closed polylines of such files, of R12 and later.
/// </summary>
internal sealed class DxfCut : ICutFormat
{
    private const string Millimetres = "4";
    private const string Inches = "1";

    public CutFileKind Kind => CutFileKind.Dxf;

    public byte[] Write(CutFile file)
    {
        var dxf = new StringBuilder();
        void Pair(int code, string value) => dxf.Append(code.ToString(CultureInfo.InvariantCulture).PadLeft(3)).Append("\r\n").Append(value).Append("\r\n");
        void Place(double x, double y)
        {
            Pair(10, N(x));
            Pair(20, N(y));
        }

        Pair(999, Titles.Plain(file.Title, 60));
        Pair(0, "SECTION");
        Pair(2, "HEADER");
        Pair(9, "$ACADVER");
        Pair(1, "AC1009");
        Pair(9, "$INSUNITS");
        Pair(70, Millimetres);
        Pair(9, "$MEASUREMENT");
        Pair(70, "1");
        Pair(9, "$EXTMIN");
        Place(0, 0);
        Pair(9, "$EXTMAX");
        Place(file.Width, file.Height);
        Pair(0, "ENDSEC");
        Pair(0, "SECTION");
        Pair(2, "TABLES");
        Pair(0, "TABLE");
        Pair(2, "LAYER");
        Pair(70, N(file.Groups.Length));
        foreach (var (group, n) in file.Groups.Select((g, n) => (g, n)))
        {
            Pair(0, "LAYER");
            Pair(2, Layer(group, n));
            Pair(70, "0");
            Pair(62, N(n + 1));
            Pair(6, "CONTINUOUS");
        }

        Pair(0, "ENDTAB");
        Pair(0, "ENDSEC");
        Pair(0, "SECTION");
        Pair(2, "ENTITIES");
        foreach (var (group, n) in file.Groups.Select((g, n) => (g, n)))
        {
            foreach (var line in group.Lines)
            {
                Pair(0, "POLYLINE");
                Pair(8, Layer(group, n));
                Pair(66, "1");
                Place(0, 0);
                Pair(30, "0");
                Pair(70, "1");
                foreach (var p in line)
                {
                    Pair(0, "VERTEX");
                    Pair(8, Layer(group, n));
                    Place(p.X, file.Height - p.Y);
                    Pair(30, "0");
                }

                Pair(0, "SEQEND");
                Pair(8, Layer(group, n));
            }
        }

        Pair(0, "ENDSEC");
        Pair(0, "EOF");
        return Encoding.ASCII.GetBytes(dxf.ToString());
    }

    public CutFile Read(byte[] bytes, string title)
    {
        var pairs = Pairs(bytes);
        var (units, height, width) = (1.0, (double?)null, (double?)null);
        for (var i = 0; i < pairs.Count; i++)
        {
            if (pairs[i].Code != 9) continue;
            if (pairs[i].Value == "$INSUNITS" && i + 1 < pairs.Count)
                units = pairs[i + 1].Value.Trim() switch { Millimetres or "0" => 1, Inches => 25.4, "5" => 10, var other => throw new StitchFileException($"The DXF drawing is in units ({other}) that are not read; save it in millimetres.") };
            if (pairs[i].Value == "$EXTMAX" && i + 2 < pairs.Count) (width, height) = (Number(pairs[i + 1].Value) * units, Number(pairs[i + 2].Value) * units);
        }

        var entities = pairs.FindIndex(p => p.Code == 2 && p.Value == "ENTITIES");
        if (entities < 0) throw new StitchFileException("The DXF drawing has no drawing in it.");
        var groups = new Dictionary<string, List<ImmutableArray<Point>>>();
        var points = 0;
        for (var i = entities + 1; i < pairs.Count && pairs[i] != (0, "ENDSEC");)
        {
            var kind = pairs[i].Value;
            var line = Entity(pairs, ref i);
            if (kind is "LINE" or "ARC" or "CIRCLE" or "SPLINE" or "ELLIPSE") throw new StitchFileException($"The DXF drawing has a {kind.ToLowerInvariant()} in it; only closed polylines are cut.");
            if (kind is not ("POLYLINE" or "LWPOLYLINE")) continue;
            if (!line.Closed) throw new StitchFileException("The DXF drawing has a line that is not closed, which a cutter would leave hanging.");
            if ((points += line.Points.Count) > CutFormats.MostPoints || groups.Count > CutFormats.MostLines) throw new StitchFileException("The DXF drawing has more lines than any sheet.");
            (groups.TryGetValue(line.Layer, out var there) ? there : groups[line.Layer] = []).Add([.. line.Points.Select(p => p * units)]);
        }

        if (groups.Count == 0) throw new StitchFileException("The DXF drawing has no closed line in it.");
        var box = Box.Around(groups.Values.SelectMany(g => g).SelectMany(l => l));
        var (w, h) = (width is > 0 ? width.Value : box.MaxX, height is > 0 ? height.Value : box.MaxY);
        return new(title, w, h, [.. groups.Select(g => new CutGroup(g.Key, [.. g.Value.Select(l => l.Select(p => new Point(p.X, h - p.Y)).ToImmutableArray())]))]);
    }

    private static List<(int Code, string Value)> Pairs(byte[] bytes)
    {
        if (bytes.Length > CutFormats.LargestFile) throw new StitchFileException("The DXF drawing is larger than any cut file.");
        var lines = Encoding.Latin1.GetString(bytes).Split('\n');
        var pairs = new List<(int, string)>(lines.Length / 2);
        for (var i = 0; i + 1 < lines.Length; i += 2)
        {
            if (!int.TryParse(lines[i].Trim(), NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture, out var code)) throw new StitchFileException($"It is no DXF drawing, or a damaged one: line {i + 1} should be a number.");
            pairs.Add((code, lines[i + 1].Trim()));
            if (pairs[^1] == (0, "EOF")) return pairs;
        }

        throw new StitchFileException("The DXF drawing is cut short.");
    }

    /// <summary>One entity with the vertices that follow it; moves on to the next.</summary>
    private static (string Layer, bool Closed, List<Point> Points) Entity(List<(int Code, string Value)> pairs, ref int i)
    {
        var (kind, layer, closed, points) = (pairs[i].Value, "0", false, new List<Point>());
        var inVertex = kind == "LWPOLYLINE";
        double? x = null;
        for (i++; i < pairs.Count; i++)
        {
            var (code, value) = pairs[i];
            if (code == 0)
            {
                if (kind != "POLYLINE" || value is not ("VERTEX" or "SEQEND")) break;
                inVertex = value == "VERTEX";
                if (value == "SEQEND") kind = "SEQEND";
                continue;
            }

            if (code == 8 && points.Count == 0) layer = value;
            if (code == 70 && points.Count == 0) closed = ((int)Number(value) & 1) == 1;
            if (code == 42 && Math.Abs(Number(value)) > 1e-9) throw new StitchFileException("The DXF drawing has a polyline with arcs in it, which are not read.");
            if (code == 10 && inVertex) x = Number(value);
            if (code == 20 && x is { } across)
            {
                points.Add(new(across, Number(value)));
                x = null;
            }
        }

        return (layer, closed && points.Count > 2, points);
    }

    private static string Layer(CutGroup group, int number) => $"{number + 1}_{Titles.Plain(group.Material, 24).Replace(' ', '_')}";

    private static double Number(string value) =>
        double.TryParse(value.Trim(), NumberStyles.Float, CultureInfo.InvariantCulture, out var v) && double.IsFinite(v) && Math.Abs(v) < 1e6 ? v : throw new StitchFileException("The DXF drawing has a number in it that is none.");

    private static string N(double v) => v.ToString("0.0###", CultureInfo.InvariantCulture);

    private static string N(int v) => v.ToString(CultureInfo.InvariantCulture);
}
