using System.Collections.Immutable;
using System.Globalization;
using System.IO.Compression;
using System.Text;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using EvenThimble.Core.Colour;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Cutting;
using EvenThimble.Core.Files.Cut;
using EvenThimble.Core.Files.Jobs;
using EvenThimble.Core.Files.Rosters;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Files.Threads;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Tests;
using EvenThimble.Core.Threads;
using EvenThimble.Scenario;

namespace EvenThimble.App.Tests.Damage;

/// <summary>A file that may be damaged, as somebody would bring it.</summary>
/// <param name="Kind">Which importer it is meant for.</param>
/// <param name="Name">Its name.</param>
/// <param name="Bytes">Its bytes.</param>
public sealed record DamagedFile(string Kind, string Name, byte[] Bytes);

/// <summary>
/// Files for every importer with something wrong in them, the same for the same seed: half of them in their bytes (flipped, cut, doubled, mixed with another), half in what they mean, with all
/// checksums and hashes made right again.
/// </summary>
public sealed partial class DamagedFiles(int seed)
{
    private static readonly string[] Extremes =
        ["0", "-1", "1e-6", "1e308", "-1e308", "1e9", "9999", "0.0000001", "2147483647", "-2147483648", "4294967296", "NaN", "\"x\"", "null", "true", "[]", "{}", "99999999999999999999", "\"\"", "[1]", "0.5", "100000", "4999"];

    private static readonly string[] Words =
        ["", "\u202eevil", new('a', 5_000), "a" + new string('\u0301', 4_000), "../../etc/passwd", "<script>", "\0", "—", "\ud83d\udc69\u200d\ud83d\udc69\u200d\ud83d\udc67", "nan", "fill\nstroke", "url(#x)"];

    private static readonly Lazy<IReadOnlyList<DamagedFile>> Sound = new(MakeSound);
    private readonly Random _random = new(seed);

    /// <summary>The importers that files are made for.</summary>
    public static IReadOnlyList<string> Kinds => [.. Sound.Value.Select(f => f.Kind).Distinct()];

    /// <summary>The next file.</summary>
    public DamagedFile Next()
    {
        var sound = Sound.Value[_random.Next(Sound.Value.Count)];
        var bytes = _random.Next(2) == 0 ? Bytes(sound.Bytes) : Meaning(sound);
        return sound with { Bytes = bytes };
    }

    private byte[] Bytes(byte[] sound)
    {
        var bytes = sound.ToList();
        for (var n = _random.Next(1, 4); n > 0 && bytes.Count > 8; n--)
        {
            var at = _random.Next(bytes.Count);
            var length = Math.Min(_random.Next(1, 40), bytes.Count - at);
            switch (_random.Next(6))
            {
                case 0: bytes[at] ^= (byte)(1 << _random.Next(8)); break;
                case 1: bytes.RemoveRange(at, bytes.Count - at); break;
                case 2: bytes.RemoveRange(at, length); break;
                case 3: bytes.InsertRange(at, bytes.GetRange(at, length)); break;
                case 4: for (var i = 0; i < length; i++) bytes[at + i] = (byte)(_random.Next(3) == 0 ? 0xFF : _random.Next(256)); break;
                case 5: bytes.InsertRange(at, Sound.Value[_random.Next(Sound.Value.Count)].Bytes.Take(_random.Next(1, 200))); break;
            }
        }

        return [.. bytes];
    }

    private byte[] Meaning(DamagedFile sound) => sound.Kind switch
    {
        "job" => Job(sound.Bytes),
        "evth1" or "evth2" => Stitches(sound.Kind),
        "letters" or "workbook" => Archive(sound.Bytes),
        "font" => Bytes(sound.Bytes),
        _ => Encoding.UTF8.GetBytes(Text(Encoding.UTF8.GetString(sound.Bytes))),
    };

    /// <summary>Numbers and words of a text replaced by extreme ones, lines doubled or left out.</summary>
    private string Text(string text)
    {
        for (var n = _random.Next(1, 5); n > 0; n--)
        {
            var numbers = Numbers().Matches(text);
            if (numbers.Count > 0 && _random.Next(3) > 0)
            {
                var m = numbers[_random.Next(numbers.Count)];
                text = text[..m.Index] + Extremes[_random.Next(Extremes.Length)].Trim('"') + text[(m.Index + m.Length)..];
                continue;
            }

            var quoted = Quoted().Matches(text);
            if (quoted.Count > 0 && _random.Next(2) == 0)
            {
                var m = quoted[_random.Next(quoted.Count)];
                text = text[..(m.Index + 1)] + Words[_random.Next(Words.Length)].Replace("\"", string.Empty) + text[(m.Index + m.Length - 1)..];
                continue;
            }

            var lines = text.Split('\n').ToList();
            var line = _random.Next(lines.Count);
            if (_random.Next(2) == 0) lines.RemoveAt(line);
            else lines.InsertRange(line, Enumerable.Repeat(lines[line], _random.Next(1, 60)));
            text = string.Join('\n', lines);
        }

        return text;
    }

    /// <summary>Sound files of strange stitches.</summary>
    private byte[] Stitches(string kind)
    {
        var builder = new StitchBuilder();
        var reach = new[] { 0.1, 1, 30, 300, 3_000, 11_000 }[_random.Next(6)];
        var count = new[] { 1, 2, 40, 3_000, 20_000 }[_random.Next(5)];
        for (var i = 0; i < count; i++)
        {
            var at = new Point(((_random.NextDouble() * 2) - 1) * reach, ((_random.NextDouble() * 2) - 1) * reach);
            switch (_random.Next(12))
            {
                case 0: builder.Jump(at); break;
                case 1: builder.Trim(); break;
                case 2: builder.Stop(_random.Next(2) == 0 ? string.Empty : Words[_random.Next(Words.Length)]); break;
                default: builder.Stitch(at); break;
            }
        }

        var blob = builder.ToBlob();
        var parts = Math.Min(blob.Count, new[] { 1, 2, 30, 4_000 }[_random.Next(4)]);
        var each = blob.Count / parts;
        var threads = Enumerable.Range(0, parts).Select(i => new StitchFilePart(i * each, i == parts - 1 ? blob.Count - (i * each) : each, new SewingThread("Fenlight", $"{i % 7}", Words[i % Words.Length], Rgb.FromInt(i * 7919 % 0xFFFFFF)), (PartRole)(i % 8)));
        var file = new StitchFile(Words[_random.Next(Words.Length)], blob, [.. threads]);
        try
        {
            return StitchFormats.Of(kind == "evth1" ? StitchFileKind.Evth1 : StitchFileKind.Evth2).Write(file);
        }
        catch (Exception e) when (e is ArgumentException or OverflowException or Core.Text.RefusedException)
        {
            return Bytes(Sound.Value.First(s => s.Kind == kind).Bytes);
        }
    }

    /// <summary>A job file whose document says something else, with hashes that fit.</summary>
    private byte[] Job(byte[] sound)
    {
        using var zip = new ZipArchive(new MemoryStream(sound));
        var entries = zip.Entries.Select(e => (e.FullName, Bytes: Unpacked(e))).ToList();
        if (_random.Next(4) == 0) entries = [.. entries.Where(_ => _random.Next(6) > 0), .. entries.Where(_ => _random.Next(8) == 0).Select(e => (e.FullName, e.Bytes))];
        var document = entries.FindIndex(e => e.FullName == "job.json");
        if (document >= 0)
        {
            var json = JsonNode.Parse(entries[document].Bytes)!;
            for (var n = _random.Next(1, 4); n > 0; n--) Change(json);
            var text = json.ToJsonString();
            if (_random.Next(3) == 0 && entries.FirstOrDefault(e => e.FullName.StartsWith("stitches/", StringComparison.Ordinal)) is { FullName: { } name, Bytes: var blob })
            {
                // Other stitches under their own hash, which the document then names.
                var strange = (byte[])blob.Clone();
                for (var n = 0; n < 3; n++) BitConverter.TryWriteBytes(strange.AsSpan(4 + (8 * _random.Next((strange.Length - 4) / 17))), new[] { double.NaN, double.PositiveInfinity, 1e300, 1e7, -0.0 }[_random.Next(5)]);
                var hash = BlobHash.Of(strange).Hex;
                text = text.Replace(name["stitches/".Length..], hash, StringComparison.Ordinal);
                entries.Add(($"stitches/{hash}", strange));
            }

            entries[document] = ("job.json", Encoding.UTF8.GetBytes(text));
        }

        return Zip(entries);
    }

    /// <summary>An archive of which one file says something else, or is there twice, or not at all.</summary>
    private byte[] Archive(byte[] sound)
    {
        using var zip = new ZipArchive(new MemoryStream(sound));
        var entries = zip.Entries.Select(e => (e.FullName, Bytes: Unpacked(e))).ToList();
        var at = _random.Next(entries.Count);
        switch (_random.Next(4))
        {
            case 0: entries.RemoveAt(at); break;
            case 1: entries.Add((Words[_random.Next(Words.Length)] + entries[at].FullName, entries[at].Bytes)); break;
            case 2: entries[at] = (entries[at].FullName, Bytes(entries[at].Bytes)); break;
            default: entries[at] = (entries[at].FullName, Encoding.UTF8.GetBytes(Text(Encoding.UTF8.GetString(entries[at].Bytes)))); break;
        }

        return Zip(entries);
    }

    private void Change(JsonNode json)
    {
        var all = new List<JsonNode>();
        Collect(json, all);
        var node = all[_random.Next(all.Count)];
        var value = Extremes[_random.Next(Extremes.Length)];
        JsonNode? Made() => _random.Next(4) == 0 ? JsonValue.Create(Words[_random.Next(Words.Length)]) : value == "NaN" ? JsonValue.Create("NaN") : JsonNode.Parse(value);
        switch (node)
        {
            case JsonObject o when o.Count > 0:
                var key = o.ElementAt(_random.Next(o.Count)).Key;
                if (_random.Next(5) == 0) o.Remove(key);
                else if (_random.Next(6) == 0) o["surprise"] = Made();
                else o[key] = Made();
                break;
            case JsonArray a when a.Count > 0:
                var at = _random.Next(a.Count);
                if (_random.Next(4) == 0) a.RemoveAt(at);
                else if (_random.Next(2) == 0) for (var n = _random.Next(1, 1_500); n > 0; n--) a.Add(a[at]?.DeepClone());
                else a[at] = Made();
                break;
        }
    }

    private static void Collect(JsonNode? node, List<JsonNode> into)
    {
        if (node is JsonObject o)
        {
            into.Add(o);
            foreach (var (_, child) in o) Collect(child, into);
        }
        else if (node is JsonArray a)
        {
            into.Add(a);
            foreach (var child in a) Collect(child, into);
        }
    }

    private static byte[] Unpacked(ZipArchiveEntry entry)
    {
        using var stream = entry.Open();
        using var bytes = new MemoryStream();
        stream.CopyTo(bytes);
        return bytes.ToArray();
    }

    private static byte[] Zip(IEnumerable<(string Name, byte[] Bytes)> entries)
    {
        using var bytes = new MemoryStream();
        using (var zip = new ZipArchive(bytes, ZipArchiveMode.Create, leaveOpen: true))
        {
            foreach (var (name, content) in entries)
            {
                using var stream = zip.CreateEntry(name, CompressionLevel.Fastest).Open();
                stream.Write(content);
            }
        }

        return bytes.ToArray();
    }

    private static IReadOnlyList<DamagedFile> MakeSound()
    {
        var planet = DemoDesigns.All[2].Drawn();
        var files = new[] { StitchFileKind.Evth1, StitchFileKind.Evth2, StitchFileKind.Csv, StitchFileKind.Svg, StitchFileKind.GCode }
            .Select(k => new DamagedFile(k.Id, $"planet{k.Extension}", StitchFormats.Write(k, k == StitchFileKind.Evth1 ? planet with { Title = "Planet" } : planet))).ToList();
        var sampler = Sampler.Make();
        files.Add(new("job", "sampler.evjob", new JobArchive(sampler, System.Collections.Immutable.ImmutableDictionary<BlobHash, StitchBlob>.Empty, [], null).ToBytes()));
        var hoop = StandInMachines.Catalogue.UsualHoop;
        var bytes = StitchFormats.Write(StitchFileKind.Evth2, planet);
        var original = new ArchivedOriginal("planet.evth", bytes);
        var job = Core.Jobs.Job.FromDesign(original.Hash, planet, hoop) with { Cloth = Cloth.Of(ClothProfiles.Cotton with { Id = "own-1", Name = "Sailcloth" }) };
        files.Add(new("job", "planet.evjob", new JobArchive(job, new Dictionary<BlobHash, StitchBlob> { [planet.Stitches.Hash] = planet.Stitches }.ToImmutableDictionary(), [original], null).ToBytes()));
        files.Add(new("job", "everything.evjob", RichJob.FileAsync().GetAwaiter().GetResult()));
        files.Add(new("roster", "volunteers.csv", RosterTable.Write(VolunteersRoster.Roster)));
        files.Add(new("workbook", "volunteers.xlsx", Zip(SmallWorkbook.Select(f => (f.Name, Encoding.UTF8.GetBytes(f.Text))))));
        files.Add(new("chart", "chart.csv", ChartTable.Write(MadeUpCharts.All[0])));
        files.Add(new("rack", "rack.csv", Encoding.UTF8.GetBytes("maker;number;name;left;count\nFenlight;1;indigo;300 m;2\nFenlight;7;\"dark \"\"rose\"\"\";80 %;1\n1001\n"))); // as somebody types it
        files.Add(new("letters", "orbit.zip", Zip(OrbitBlock.Files.Where((_, i) => i % 6 == 0).Select(f => (f.FileName, StitchFormats.Write(StitchFileKind.Evth2, f.Draw()))))));
        files.Add(new("font", "figtree.woff", File.ReadAllBytes(Path.Combine(RoomUses.Top(), "node_modules", "@fontsource", "figtree", "files", "figtree-latin-700-normal.woff"))));
        files.AddRange(CutFormats.All.Select(f => new DamagedFile(f.Kind.Extension[1..], $"pieces{f.Kind.Extension}", f.Write(Pieces))));
        files.AddRange(Drawings.Select((d, i) => new DamagedFile("drawing", $"drawing{i}.svg", Encoding.UTF8.GetBytes(d))));
        return files;
    }

    /// <summary>Made-up drawings with the traits of those that drawing programs write.</summary>
    public static IReadOnlyList<string> Drawings { get; } =
    [
        """
        <?xml version="1.0"?>
        <!DOCTYPE svg PUBLIC "-//W3C//DTD SVG 1.1//EN" "http://www.w3.org/Graphics/SVG/1.1/DTD/svg11.dtd" [
          <!ENTITY ns_svg "http://www.w3.org/2000/svg">
          <!ENTITY gold "#c9962b">
        ]>
        <svg xmlns="&ns_svg;" xmlns:xlink="http://www.w3.org/1999/xlink" width="80mm" height="60mm" viewBox="0 0 160 120">
          <style type="text/css"> .dome{fill:&gold;stroke:none} g > .slit{fill:#2f4b7c} #star{stroke:#a63a3c;stroke-width:2px;fill:none} </style>
          <defs>
            <linearGradient id="dusk"><stop offset="0" stop-color="#223355"/><stop offset="100%" style="stop-color:#aa6633;stop-opacity:0.8"/></linearGradient>
            <symbol id="tarn" viewBox="0 0 10 10"><circle cx="5" cy="5" r="4"/></symbol>
          </defs>
          <g transform="translate(10 10)">
            <path class="dome" d="M0 60 A50 50 0 0 1 100 60 L100 80 0 80z"/>
            <rect class="slit" x="45" y="12" width="10" height="50" rx="2"/>
            <path id="star" d="M120 10l5 10 10 2-8 7 2 11-9-5-9 5 2-11-8-7 10-2z" transform="rotate(12 120 20)"/>
            <use xlink:href="#tarn" x="100" y="60" width="30" height="30" fill="url(#dusk)"/>
          </g>
        </svg>
        """,
        """
        <svg xmlns="http://www.w3.org/2000/svg" width="400" height="300">
          <g style="fill:none;stroke:#000;stroke-width:1.5;stroke-linejoin:round" transform="matrix(1,0,0,1,20,20) scale(.9)">
            <polyline points="10,10 50,80 90,20 130,90 170,30" />
            <polygon points="200,10 260,10 280,60 230,100 190,60" style="fill:rgb(40%,60%,20%)"/>
            <ellipse cx="100" cy="180" rx="60" ry="30" fill="hsl(200,50%,40%)" opacity=".7"/>
            <line x1="0" y1="240" x2="300" y2="240" stroke="currentColor" color="teal"/>
          </g>
        </svg>
        """,
    ];

    private static readonly CutFile Pieces = new(
        "Pieces", 90, 80, [new("felt", [[new Point(5, 5), new(45, 5), new(45, 35), new(5, 35)], .. Enumerable.Range(0, 12).Select(n => ImmutableArray.CreateRange(Enumerable.Range(0, 24).Select(i => new Point(60 + (12 * Math.Cos(i * Math.PI / 12)), 15 + n + (8 * Math.Sin(i * Math.PI / 12))))))])]);

    private static readonly (string Name, string Text)[] SmallWorkbook =
    [
        ("[Content_Types].xml", "<Types xmlns='http://schemas.openxmlformats.org/package/2006/content-types'><Override PartName='/xl/workbook.xml' ContentType='application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml'/></Types>"),
        ("xl/workbook.xml", "<workbook xmlns='http://schemas.openxmlformats.org/spreadsheetml/2006/main' xmlns:r='http://schemas.openxmlformats.org/officeDocument/2006/relationships'><sheets><sheet name='Names' sheetId='1' r:id='rId1'/></sheets></workbook>"),
        ("xl/_rels/workbook.xml.rels", "<Relationships xmlns='http://schemas.openxmlformats.org/package/2006/relationships'><Relationship Id='rId1' Type='http://schemas.openxmlformats.org/officeDocument/2006/relationships/worksheet' Target='worksheets/sheet1.xml'/></Relationships>"),
        ("xl/worksheets/sheet1.xml", "<worksheet xmlns='http://schemas.openxmlformats.org/spreadsheetml/2006/main'><sheetData><row r='1'><c r='A1' t='inlineStr'><is><t>given</t></is></c><c r='B1' t='inlineStr'><is><t>quantity</t></is></c></row><row r='2'><c r='A2' t='inlineStr'><is><t>Ottoline</t></is></c><c r='B2'><v>2</v></c></row></sheetData></worksheet>"),
    ];

    [GeneratedRegex(@"-?\d+\.?\d*")]
    private static partial Regex Numbers();

    [GeneratedRegex("\"[^\"\n]*\"")]
    private static partial Regex Quoted();
}
