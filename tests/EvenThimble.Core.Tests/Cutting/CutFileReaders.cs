using System.Globalization;
using System.Text;
using System.Xml.Linq;
using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Tests.Cutting;

/// <summary>Readers of cut files written for the tests from the public descriptions, apart from the program's: each gives closed lines in mm from the far left corner, y towards the operator.</summary>
internal static class CutFileReaders
{
    public static (double Width, double Height, List<List<Point>> Lines) Svg(byte[] bytes)
    {
        var root = XDocument.Parse(Encoding.UTF8.GetString(bytes)).Root!;
        double Mm(string name) => root.Attribute(name)!.Value is var v && v.EndsWith("mm") ? double.Parse(v[..^2], CultureInfo.InvariantCulture) : throw new InvalidDataException("no mm");
        var view = root.Attribute("viewBox")!.Value.Split(' ').Select(v => double.Parse(v, CultureInfo.InvariantCulture)).ToArray();
        var (scaleX, scaleY) = (Mm("width") / view[2], Mm("height") / view[3]);
        var lines = root.Descendants().Where(e => e.Name.LocalName == "path").Select(e =>
        {
            var d = e.Attribute("d")!.Value.Trim();
            if (!d.StartsWith('M') || !d.EndsWith('Z') || d.Count(c => c is 'M' or 'm') != 1) throw new InvalidDataException("not one closed line");
            return d.Trim('M', 'Z', ' ').Split('L').Select(p => p.Split(',').Select(v => double.Parse(v, CultureInfo.InvariantCulture)).ToArray()).Select(p => new Point((p[0] - view[0]) * scaleX, (p[1] - view[1]) * scaleY)).ToList();
        }).ToList();
        return (Mm("width"), Mm("height"), lines);
    }

    /// <summary>Group codes and values in turn; y is upwards, so the height of the sheet ($EXTMAX) turns it.</summary>
    public static List<List<Point>> Dxf(byte[] bytes)
    {
        var text = Encoding.ASCII.GetString(bytes).Split("\r\n");
        var pairs = Enumerable.Range(0, text.Length / 2).Select(i => (Code: int.Parse(text[2 * i]), Value: text[(2 * i) + 1])).ToList();
        double N(string v) => double.Parse(v, CultureInfo.InvariantCulture);
        if (pairs[pairs.FindIndex(p => p == (9, "$INSUNITS")) + 1].Value != "4") throw new InvalidDataException("not millimetres");
        var height = N(pairs[pairs.FindIndex(p => p == (9, "$EXTMAX")) + 2].Value);
        var lines = new List<List<Point>>();
        for (var i = pairs.FindIndex(p => p == (2, "ENTITIES")); i < pairs.Count; i++)
        {
            if (pairs[i] == (0, "POLYLINE"))
            {
                var head = pairs.Skip(i + 1).TakeWhile(p => p.Code != 0).ToList();
                if (!head.Contains((70, "1"))) throw new InvalidDataException("not closed");
                lines.Add([]);
            }

            if (pairs[i] != (0, "VERTEX")) continue;
            var vertex = pairs.Skip(i + 1).TakeWhile(p => p.Code != 0).ToDictionary(p => p.Code, p => p.Value);
            lines[^1].Add(new(N(vertex[10]), height - N(vertex[20])));
        }

        return pairs[^1] == (0, "EOF") || pairs.Contains((0, "EOF")) ? lines : throw new InvalidDataException("no end");
    }

    /// <summary>Pen up, pen down, 40 units to the millimetre; y is upwards from the near edge of a sheet of a height.</summary>
    public static List<List<Point>> Plotter(byte[] bytes, double height)
    {
        var (lines, at) = (new List<List<Point>>(), Point.Zero);
        foreach (var command in Encoding.ASCII.GetString(bytes).Split(';').Select(c => c.Trim()))
        {
            if (command.Length < 2 || command[..2] is not ("PU" or "PD")) continue;
            var numbers = command[2..].Split(',', StringSplitOptions.RemoveEmptyEntries).Select(v => int.Parse(v, CultureInfo.InvariantCulture)).ToArray();
            if (command.StartsWith("PU")) lines.Add([]);
            for (var i = 0; i + 1 < numbers.Length; i += 2)
            {
                at = new(numbers[i] / 40.0, height - (numbers[i + 1] / 40.0));
                lines[^1].Add(at);
            }
        }

        foreach (var line in lines.Where(l => l.Count > 1))
        {
            if (line[0].DistanceTo(line[^1]) > 1e-9) throw new InvalidDataException("does not come back");
            line.RemoveAt(line.Count - 1);
        }

        return lines.FindAll(l => l.Count > 1);
    }
}
