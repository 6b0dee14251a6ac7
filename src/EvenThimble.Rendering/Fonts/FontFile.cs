using System.Collections.Concurrent;
using System.Runtime.InteropServices;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Text;
using HarfBuzzSharp;
using SkiaSharp;
using Buffer = HarfBuzzSharp.Buffer;

namespace EvenThimble.Rendering.Fonts;

/// <summary>A font of a file (TTF, OTF or WOFF): shaped by HarfBuzz, its outlines read by Skia. It may be used by several threads.</summary>
public sealed class FontFile : ILetterFont, IDisposable
{
    /// <summary>No font file is larger, bytes.</summary>
    public const int LargestFile = 20 << 20;

    private const int FirstEm = 1000;
    private const uint Os2 = 0x4F53_2F32;
    private static readonly Feature[] Unkerned = [Feature.Parse("-kern")];
    private readonly SKTypeface _typeface;
    private readonly SKFont _drawn;
    private readonly Face _face;
    private readonly Font _shaping;
    private readonly int _em;
    private readonly Lock _lock = new();
    private readonly ConcurrentDictionary<int, DrawnShape> _outlines = [];

    private FontFile(SKTypeface typeface)
    {
        _typeface = typeface;
        _em = typeface.UnitsPerEm > 0 ? typeface.UnitsPerEm : FirstEm;
        _drawn = new SKFont(typeface, _em) { Hinting = SKFontHinting.None, Subpixel = true, LinearMetrics = true };
        _face = new Face(Table) { UnitsPerEm = _em };
        _shaping = new Font(_face);
        _shaping.SetScale(_em, _em);
        _shaping.SetFunctionsOpenType();
        Name = Titles.Clean(typeface.FamilyName) is { Length: > 0 } name ? name : "a font without a name";
        CapitalEm = HeightOf("H") ?? HeightOf("O") ?? 0.7;
        SmallEm = HeightOf("x") ?? HeightOf("n") ?? CapitalEm * 0.7;
        var metrics = _drawn.Metrics;
        LineEm = Math.Clamp((metrics.Descent - metrics.Ascent + metrics.Leading) / _em, 0.8, 3);
    }

    /// <inheritdoc/>
    public string Name { get; }

    /// <summary>Its name with what sets it apart from the others of its family, such as bold.</summary>
    public string FullName => Titles.Clean(string.Join(' ', new[] { Name, WeightInWords(_typeface.FontWeight), _typeface.IsItalic ? "Italic" : string.Empty }.Where(w => w.Length > 0 && (w == Name || !Name.Contains(w, StringComparison.OrdinalIgnoreCase)))));

    /// <inheritdoc/>
    public double CapitalEm { get; }

    /// <inheritdoc/>
    public double SmallEm { get; }

    /// <inheritdoc/>
    public double LineEm { get; }

    /// <inheritdoc/>
    public double? PenEm => null;

    /// <summary>Whether its licence bits (OS/2 table, fsType) let it travel inside a document; a font without them is taken to be free to.</summary>
    public bool MayTravel => !_typeface.TryGetTableData(Os2, out var table) || table.Length < 10 || MayBeEmbedded((table[8] << 8) | table[9]);

    /// <summary>Reads a font.</summary>
    /// <exception cref="StitchFileException">It is none, or has no outlines; a sentence.</exception>
    public static FontFile Read(byte[] bytes)
    {
        if (bytes.Length > LargestFile) throw new StitchFileException($"The font is larger than {LargestFile >> 20} MB. Check that it is the right file.");
        using var data = SKData.CreateCopy(bytes);
        var typeface = SKTypeface.FromData(data);
        if (typeface is null || typeface.GlyphCount == 0)
        {
            typeface?.Dispose();
            throw new StitchFileException("This is no font that can be read. Fonts are TTF, OTF or WOFF files.");
        }

        var font = new FontFile(typeface);
        if (Enumerable.Range(0, Math.Min(typeface.GlyphCount, 400)).Any(g => font.HasOutline((ushort)g))) return font;
        font.Dispose();
        throw new StitchFileException("The letters of this font have no outlines, so nothing can be stitched of them. Choose another font.");
    }

    /// <inheritdoc/>
    public ShapedLine Shape(string line)
    {
        lock (_lock)
        {
            var (glyphs, missing) = (new List<ShapedGlyph>(), new List<string>());
            foreach (var run in DirectionRuns.Of(line)) Shape(line, run, glyphs, missing);
            return new(glyphs, missing);
        }
    }

    /// <inheritdoc/>
    public DrawnShape Outline(int glyph) => _outlines.GetOrAdd(glyph, OutlineOf);

    /// <inheritdoc/>
    public void Dispose()
    {
        _shaping.Dispose();
        _face.Dispose();
        _drawn.Dispose();
        _typeface.Dispose();
    }

    private void Shape(string line, DirectionRun run, List<ShapedGlyph> glyphs, List<string> missing)
    {
        var text = line.Substring(run.From, run.Length);
        using var kerned = Filled(text, run.RightToLeft);
        using var plain = Filled(text, run.RightToLeft);
        _shaping.Shape(kerned);
        _shaping.Shape(plain, Unkerned);
        var (infos, places, unkerned) = (kerned.GlyphInfos, kerned.GlyphPositions, plain.GlyphPositions);
        var clusters = infos.Select(i => (int)i.Cluster).Append(text.Length).Distinct().Order().ToList();
        for (var i = 0; i < infos.Length; i++)
        {
            var from = (int)infos[i].Cluster;
            var characters = text[from..clusters[clusters.IndexOf(from) + 1]];

            // Several glyphs of one letter, as a letter and its accent: the first stands for its characters.
            var first = i == 0 || infos[i - 1].Cluster != infos[i].Cluster;
            if (infos[i].Codepoint == 0 && !string.IsNullOrWhiteSpace(characters) && !missing.Contains(characters)) missing.Add(characters);
            if (infos[i].Codepoint == 0) continue;
            var advance = unkerned.Length == places.Length ? unkerned[i].XAdvance : places[i].XAdvance;
            glyphs.Add(new(
                (int)infos[i].Codepoint, run.From + from, first ? characters : string.Empty, advance / (double)_em, (places[i].XAdvance - advance) / (double)_em, new Point(places[i].XOffset, -places[i].YOffset) / _em));
        }
    }

    private static string WeightInWords(int weight) => weight switch { < 250 => "Thin", < 350 => "Light", < 550 => string.Empty, < 650 => "Semibold", < 850 => "Bold", _ => "Black" };

    /// <summary>0: without limits; 2 alone forbids it; 4 and 8 allow it for looking at and for editing; 0x200 allows pictures of it only.</summary>
    private static bool MayBeEmbedded(int bits) => (bits & 0x200) == 0 && (bits & 0xF) != 2;

    private static Buffer Filled(string text, bool rightToLeft)
    {
        var buffer = new Buffer();
        buffer.AddUtf16(text);
        buffer.GuessSegmentProperties();
        buffer.Direction = rightToLeft ? Direction.RightToLeft : Direction.LeftToRight;
        return buffer;
    }

    private DrawnShape OutlineOf(int glyph)
    {
        lock (_lock)
        {
            using var path = _drawn.GetGlyphPath((ushort)glyph);
            if (path is null) return new([]);
            var outlines = PathOutlines.Of(path, 1.0 / _em);
            if (outlines.Sum(o => o.Nodes.Length) > DrawnShape.MostNodes) throw new StitchFileException($"A letter of {Name} has more than {DrawnShape.MostNodes:N0} points. Choose another font.");
            return new([.. outlines], Inside.AnyWinding);
        }
    }

    private bool HasOutline(ushort glyph)
    {
        using var path = _drawn.GetGlyphPath(glyph);
        return path is { PointCount: > 2 };
    }

    private double? HeightOf(string letter)
    {
        if (_drawn.GetGlyph(letter[0]) is var glyph && glyph == 0) return null;
        using var path = _drawn.GetGlyphPath(glyph);
        return path is { IsEmpty: false } && -path.TightBounds.Top / (double)_em is > 0.1 and < 3 and var height ? height : null;
    }

    /// <summary>A table of the font for HarfBuzz; Skia has unpacked it where the file was packed.</summary>
    private HarfBuzzSharp.Blob? Table(Face face, Tag tag)
    {
        if (!_typeface.TryGetTableData(tag, out var bytes) || bytes is null) return null;
        var held = GCHandle.Alloc(bytes, GCHandleType.Pinned);
        return new(held.AddrOfPinnedObject(), bytes.Length, MemoryMode.ReadOnly, held.Free);
    }
}
