using System.Globalization;
using System.Text;
using System.Xml;
using EvenThimble.Core.Colour;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Files.Stitch;

/// <summary>
/// The SVG stitch plan: a group a part, a polyline an unbroken run of stitches. What happens before a polyline stands in
/// <c>data-before</c>, what ends a part in the group's <c>data-after</c>: words <c>trim</c>, <c>stop</c>, <c>stop:message</c> and places of jumps.
/// </summary>
public sealed class SvgFormat : IStitchFormat
{
    private const string Namespace = "http://www.w3.org/2000/svg";

    private static readonly XmlReaderSettings Safe = new()
    {
        DtdProcessing = DtdProcessing.Prohibit,
        XmlResolver = null,
        MaxCharactersFromEntities = 0,
        MaxCharactersInDocument = StitchFormats.LargestFile,
        IgnoreComments = true,
        IgnoreProcessingInstructions = true,
    };

    /// <inheritdoc/>
    public StitchFileKind Kind => StitchFileKind.Svg;

    /// <inheritdoc/>
    public double ToleranceMm => 0;

    /// <inheritdoc/>
    public bool CarriesThreads => true;

    /// <inheritdoc/>
    public bool Recognises(ReadOnlySpan<byte> bytes) => StitchFormats.TextStart(bytes) is var start && start.StartsWith('<') && start.Contains("<svg", StringComparison.OrdinalIgnoreCase);

    /// <inheritdoc/>
    public IEnumerable<string> Losses(StitchFile file)
    {
        yield break;
    }

    /// <summary>Reads a stitch plan.</summary>
    /// <exception cref="StitchFileException">It is not sound XML, or not a stitch plan.</exception>
    public StitchFile Read(ReadOnlySpan<byte> bytes)
    {
        try
        {
            using var reader = XmlReader.Create(new MemoryStream(bytes.ToArray()), Safe);
            return Read(reader);
        }
        catch (XmlException e) when (e.Message.Contains("DTD", StringComparison.Ordinal))
        {
            throw new StitchFileException("The SVG file brings a document type of its own (DTD), which is not read for safety. Save it as plain SVG.");
        }
        catch (XmlException e)
        {
            throw new StitchFileException($"The SVG file is damaged at line {e.LineNumber}: it is not sound XML. Copy it again from where it came.");
        }
    }

    private static StitchFile Read(XmlReader reader)
    {
        var (parts, title, groupDepth, after) = (new PartCollector(), string.Empty, -1, string.Empty);
        while (reader.Read())
        {
            if (reader.NodeType == XmlNodeType.EndElement && reader.LocalName == "g" && reader.Depth == groupDepth)
            {
                Happen(parts.Records, after);
                groupDepth = -1;
            }

            if (reader.NodeType != XmlNodeType.Element) continue;
            switch (reader.LocalName)
            {
                case "title" when title.Length == 0:
                    title = reader.ReadString();
                    break;
                case "g" when reader.GetAttribute("data-thread") is { } thread:
                    parts.Change(Thread(thread, reader.GetAttribute("data-colour")), Role(reader.GetAttribute("data-role")));
                    after = reader.GetAttribute("data-after") ?? string.Empty;
                    if (!reader.IsEmptyElement) groupDepth = reader.Depth;
                    else Happen(parts.Records, after);
                    break;
                case "polyline" when groupDepth >= 0:
                    Sew(parts.Records, reader.GetAttribute("points") ?? string.Empty, reader.GetAttribute("data-before"));
                    break;
            }

            if (parts.Records.Count > StitchFormats.MostRecords) throw new StitchFileException($"The stitch plan has more stitches than any machine takes ({StitchFormats.MostRecords}).");
        }

        if (parts.Records.Count == 0)
            throw new StitchFileException("The SVG file is a drawing without stitches: no group in it names a thread (data-thread). A stitch plan is needed here.");
        return parts.ToFile(title);
    }

    private static void Sew(StitchBuilder records, string points, string? before)
    {
        var places = Places(points);
        if (before is null && places.Count > 0)
        {
            if (records.Last is StitchKind.Stitch && records.Needle.DistanceTo(places[0]) > Limits.TrimOver) records.Trim();
            records.Jump(places[0]);
        }
        else
        {
            Happen(records, before ?? string.Empty);
        }

        foreach (var place in places) records.Stitch(place);
    }

    private static void Happen(StitchBuilder records, string words)
    {
        foreach (var word in words.Split(' ', StringSplitOptions.RemoveEmptyEntries))
        {
            if (word == "trim") records.Trim();
            else if (word == "stop") records.Stop(string.Empty);
            else if (word.StartsWith("stop:", StringComparison.Ordinal)) records.Stop(Titles.Clean(Uri.UnescapeDataString(word[5..])));
            else if (Places(word) is [var place]) records.Jump(place);
        }
    }

    private static List<Point> Places(string points)
    {
        var numbers = points.Split([' ', ',', '\t', '\r', '\n'], StringSplitOptions.RemoveEmptyEntries);
        if (numbers.Length % 2 != 0) throw new StitchFileException("The stitch plan is damaged: a polyline has an odd number of coordinates.");
        var places = new List<Point>(numbers.Length / 2);
        for (var i = 0; i < numbers.Length; i += 2) places.Add(new(Number(numbers[i]), Number(numbers[i + 1])));
        return places;
    }

    private static double Number(string text) =>
        double.TryParse(text, NumberStyles.Float, CultureInfo.InvariantCulture, out var v) && Math.Abs(v) <= StitchBlob.FarthestMm
            ? v
            : throw new StitchFileException($"The stitch plan is damaged: “{(text.Length <= 24 ? text : text[..24] + "…")}” is no place within 10 m of the centre.");

    private static SewingThread Thread(string names, string? colour)
    {
        var parsed = Rgb.TryParse(colour, out var rgb) ? rgb : SewingThread.Unnamed(0).Colour;
        var parts = names.Split('|', 3);
        return parts.Length == 3
            ? new(Titles.Clean(parts[0]), Titles.Clean(parts[1]), Titles.Clean(parts[2]), parsed)
            : new(string.Empty, string.Empty, Titles.Clean(names), parsed);
    }

    private static PartRole Role(string? words) => PartRoles.TryParse(words ?? string.Empty, out var role) ? role : PartRole.Decoration;

    /// <summary>Writes a stitch plan.</summary>
    public byte[] Write(StitchFile file)
    {
        var b = file.Bounds;
        const double border = 2;
        using var bytes = new MemoryStream();
        using (var xml = XmlWriter.Create(bytes, new() { Encoding = new UTF8Encoding(false), Indent = true, IndentChars = " " }))
        {
            xml.WriteStartElement("svg", Namespace);
            xml.WriteAttributeString("width", Text($"{b.Width + (2 * border):0.###}mm"));
            xml.WriteAttributeString("height", Text($"{b.Height + (2 * border):0.###}mm"));
            xml.WriteAttributeString("viewBox", Text($"{b.MinX - border:0.###} {b.MinY - border:0.###} {b.Width + (2 * border):0.###} {b.Height + (2 * border):0.###}"));
            xml.WriteElementString("title", Namespace, Titles.Clean(file.Title));
            foreach (var part in file.Parts) WritePart(xml, file.Stitches, part);
            xml.WriteEndElement();
        }

        return bytes.ToArray();
    }

    private static void WritePart(XmlWriter xml, StitchBlob stitches, StitchFilePart part)
    {
        var (runs, after) = RunsOf(stitches, part);
        var t = part.Thread;
        xml.WriteStartElement("g", Namespace);
        xml.WriteAttributeString("data-thread", $"{t.Maker.Replace('|', '/')}|{t.Number.Replace('|', '/')}|{t.Name}");
        xml.WriteAttributeString("data-colour", t.Colour.Hex);
        xml.WriteAttributeString("data-role", part.Role.InWords());
        if (after.Length > 0) xml.WriteAttributeString("data-after", after);
        xml.WriteAttributeString("fill", "none");
        xml.WriteAttributeString("stroke", t.Colour.Hex);
        xml.WriteAttributeString("stroke-width", "0.4");
        xml.WriteAttributeString("stroke-linecap", "round");
        xml.WriteAttributeString("stroke-linejoin", "round");
        foreach (var (before, points) in runs)
        {
            xml.WriteStartElement("polyline", Namespace);
            xml.WriteAttributeString("data-before", before);
            xml.WriteAttributeString("points", points);
            xml.WriteEndElement();
        }

        xml.WriteEndElement();
    }

    private static (List<(string Before, string Points)> Runs, string After) RunsOf(StitchBlob stitches, StitchFilePart part)
    {
        var runs = new List<(string, string)>();
        var (before, points) = (new List<string>(), new List<string>());
        for (var i = part.First; i < part.First + part.Count; i++)
        {
            var kind = stitches.Kinds[i];
            if (kind == StitchKind.Stitch)
            {
                points.Add(Text($"{stitches.X[i]},{stitches.Y[i]}"));
                continue;
            }

            if (points.Count > 0)
            {
                runs.Add((string.Join(' ', before), string.Join(' ', points)));
                (before, points) = ([], []);
            }

            before.Add(kind switch
            {
                StitchKind.Jump => Text($"{stitches.X[i]},{stitches.Y[i]}"),
                StitchKind.Trim => "trim",
                _ => stitches.Messages.TryGetValue(i, out var message) ? $"stop:{Uri.EscapeDataString(message)}" : "stop",
            });
        }

        if (points.Count == 0) return (runs, string.Join(' ', before));
        runs.Add((string.Join(' ', before), string.Join(' ', points)));
        return (runs, string.Empty);
    }

    private static string Text(FormattableString text) => text.ToString(CultureInfo.InvariantCulture);
}
