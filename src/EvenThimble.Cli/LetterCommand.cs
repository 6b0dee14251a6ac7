using System.CommandLine;
using System.Globalization;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;
using EvenThimble.Rendering;
using EvenThimble.Rendering.Fonts;

namespace EvenThimble.Cli;

/// <summary>Writes text as thread.</summary>
internal sealed class LetterCommand : FilesCommand
{
    private const double PixelsPerMm = 10;
    private static readonly Dictionary<string, StitchWay> Ways = new() { ["automatic"] = StitchWay.Automatic, ["satin"] = StitchWay.Satin, ["fill"] = StitchWay.Fill, ["run"] = StitchWay.Run };
    private readonly Outputs _outputs = new();
    private readonly Option<string> _font = FontOption();
    private readonly Option<double> _height = new("--height") { Description = "Height of capitals, mm.", DefaultValueFactory = _ => 15 };
    private readonly Option<double?> _width = new("--width") { Description = "Exact width of the block, mm, instead of a height." };
    private readonly Option<double?> _blockHeight = new("--block-height") { Description = "Exact height of the block, mm, instead of that of capitals." };
    private readonly Option<string> _way = new Option<string>("--way") { Description = "How letters are stitched; automatic: by the width of their strokes.", DefaultValueFactory = _ => "automatic" }.AcceptOnlyFromAmong([.. Ways.Keys]);
    private readonly Option<string> _cloth = new("--cloth") { Description = "What it is sewn on, by name.", DefaultValueFactory = _ => ClothProfiles.Cotton.Name };
    private readonly Option<double?> _ring = new("--ring") { Description = "Around a ring of this outer diameter, mm: the first line above, a second below." };
    private readonly Option<double?> _arc = new("--arc") { Description = "Bent over an arc of so many degrees; below 0 it sags." };
    private readonly Option<string?> _bend = new("--bend") { Description = $"Bent to a shape, as arch:0.5; the amount is from -1 to 1. Shapes: {string.Join(", ", BendShape.All.Select(b => b.Name))}." };
    private readonly Option<string> _align = new Option<string>("--align") { Description = "How lines lie to each other.", DefaultValueFactory = _ => "centre" }.AcceptOnlyFromAmong("left", "centre", "right", "justified");
    private readonly Option<double> _lines = new("--line-spacing") { Description = "From line to line, 1 as the font has it.", DefaultValueFactory = _ => 1 };
    private readonly Option<double> _letters = new("--letter-spacing") { Description = "Added between letters, in heights of capitals." };
    private readonly Option<double> _words = new("--word-spacing") { Description = "Width of spaces, 1 as the font has it.", DefaultValueFactory = _ => 1 };
    private readonly Option<double> _slant = new("--slant") { Description = "By how much letters lean to the right, degrees." };
    private readonly Option<double> _turn = new("--turn") { Description = "By how much the block is turned, degrees clockwise." };
    private readonly Option<bool> _stacked = new("--stacked") { Description = "Letters below each other." };
    private readonly Option<bool> _noOptical = new("--no-optical") { Description = "Without optical spacing." };
    private readonly Option<bool> _noKerning = new("--no-kerning") { Description = "Without the font's own kerning." };
    private readonly Option<int> _revision = StitchFiles.Revision();

    public LetterCommand(TextWriter says, TextWriter errors)
        : base("letter", "Write text as thread.", "Texts; \\n begins a new line.", says, errors)
    {
        foreach (var option in new Option[] { _font, _height, _width, _blockHeight, _way, _cloth, _ring, _arc, _bend, _align, _lines, _letters, _words, _slant, _turn, _stacked, _noOptical, _noKerning, _revision }) Add(option);
        _outputs.AddTo(this);
    }

    protected override IEnumerable<Work> Works(ParseResult parsed)
    {
        var (cloth, way) = (Cloths.Named(parsed.GetValue(_cloth)!), Ways[parsed.GetValue(_way)!]);
        var wish = WishOf(parsed);
        var font = new Lazy<LetterFace>(() => FaceOf(parsed.GetValue(_font)!));
        foreach (var input in parsed.GetValue(Inputs)!)
        {
            var text = input.Replace("\\n", "\n", StringComparison.Ordinal);

            // In a folder a result is named after its text, whole: a full stop in it begins no ending.
            var path = _outputs.For(parsed, Titles.FileName(text.ReplaceLineEndings(" ")) + ".text", ".evth");
            var picture = path.EndsWith(".png", StringComparison.OrdinalIgnoreCase);
            var kind = StitchFiles.KindOf(picture ? Path.ChangeExtension(path, ".evth") : path, parsed.GetValue(_revision));
            yield return new(input, path, () =>
            {
                var laid = font.Value.Lay(wish with { Text = text });
                var blob = LetteringSewing.Stitch(laid, LetteringSewing.SettingsFor(font.Value.Measure, way, laid.CapitalMm), cloth);
                if (blob.Count == 0) throw new EditRefusedException("Nothing of this text could be stitched. Make it larger.");
                var file = new StitchFile(Titles.Clean(text.ReplaceLineEndings(" ")), blob, [new(0, blob.Count, MadeUpCharts.All[0].Threads[0], PartRole.Lettering)]);
                _outputs.Write(parsed, path, () => picture ? ThreadPainter.PictureAt(file, PixelsPerMm, cloth.UsualColour, lines: false) : StitchFiles.Write(kind, file));
                return Told(path, file, laid, [.. NotesOn(laid, font.Value), .. picture ? [] : StitchFormats.Losses(kind, file)]);
            });
        }
    }

    private LetteringWish WishOf(ParseResult parsed)
    {
        var (ring, arc) = (parsed.GetValue(_ring), parsed.GetValue(_arc));
        if (ring is not null && arc is not null) throw new UsageException("Letters stand on a ring or on an arc, not on both.");
        if (parsed.GetValue(_width) is not null && parsed.GetValue(_blockHeight) is not null) throw new UsageException("A block is made as wide or as high as wanted, not both: its proportions are kept.");
        var wish = new LetteringWish(string.Empty)
        {
            CapitalMm = parsed.GetValue(_height),
            WidthMm = parsed.GetValue(_width),
            HeightMm = parsed.GetValue(_blockHeight),
            Align = Enum.Parse<LetterAlign>(parsed.GetValue(_align)!, ignoreCase: true),
            LineSpacing = parsed.GetValue(_lines),
            LetterSpacing = parsed.GetValue(_letters),
            WordSpacing = parsed.GetValue(_words),
            SlantDegrees = parsed.GetValue(_slant),
            TurnDegrees = parsed.GetValue(_turn),
            Stacked = parsed.GetValue(_stacked),
            FontKerning = !parsed.GetValue(_noKerning),
            OpticalSpacing = !parsed.GetValue(_noOptical),
            Course = ring is { } diameter ? new LetterCourse.OnRing(diameter) : arc is { } degrees ? new LetterCourse.OnArc(degrees) : LetterCourse.Straight,
            Bend = BendOf(parsed.GetValue(_bend)),
        };
        try
        {
            wish.Check();
        }
        catch (EditRefusedException e)
        {
            throw new UsageException(e.Message);
        }

        return wish;
    }

    private static LetterBend? BendOf(string? words)
    {
        if (words is null) return null;
        var parts = words.Split(':');
        if (BendShape.Find(parts[0]) is not { } shape) throw new UsageException($"“{parts[0]}” is no shape to bend to; there are {string.Join(", ", BendShape.All.Select(b => b.Name))}.");
        var amount = 0.5;
        if (parts.Length > 2 || (parts.Length == 2 && !double.TryParse(parts[1], NumberStyles.Float, CultureInfo.InvariantCulture, out amount)) || !(amount >= LetterBend.Amounts.Least && amount <= LetterBend.Amounts.Most))
            throw new UsageException($"“{words}” is no bend; one is written as {shape.Name}:0.5, with an amount from {LetterBend.Amounts.Least} to {LetterBend.Amounts.Most}.");
        return new(shape, amount);
    }

    /// <summary>The font to write in.</summary>
    public static Option<string> FontOption() => new("--font") { Description = "A lettering font by name, or a font file (TTF, OTF, WOFF).", DefaultValueFactory = _ => InstalledFonts.All[0].Name };

    /// <summary>The font of a name or a file.</summary>
    /// <exception cref="StitchFileException">It is neither.</exception>
    public static LetterFace FaceOf(string name)
    {
        if (InstalledFonts.Find(name) is { } installed) return Named(InstalledFonts.Open(installed));
        if (File.Exists(name)) return Named(FontFile.Read(StitchFiles.Bytes(name, FontFile.LargestFile)));
        throw new StitchFileException($"“{name}” is neither a font file nor a lettering font; there are {string.Join(", ", InstalledFonts.All.Select(f => f.Name))}.");

        static LetterFace Named(ILetterFont font) => new(font.Name, font);
    }

    private static IEnumerable<string> NotesOn(LaidLettering laid, LetterFace font)
    {
        if (laid.Missing.Length > 0) yield return $"{font.Name} lacks {string.Join(' ', laid.Missing)}; nothing is sewn there.";
        if (font.Measure.SmallestGoodMm is var good && laid.CapitalMm < good - 0.05)
            yield return $"{font.Name} sews well from capitals of {good.ToString("0.#", CultureInfo.InvariantCulture)} mm; these are {laid.CapitalMm.ToString("0.#", CultureInfo.InvariantCulture)} mm high.";
    }

    private static WorkResult Told(string path, StitchFile file, LaidLettering laid, IReadOnlyList<string> notes)
    {
        var told = StitchFiles.Told(path, file, notes);
        return told with
        {
            Figures = new
            {
                file = told.Figures,
                capitalMm = Math.Round(laid.CapitalMm, 3),
                missing = laid.Missing,
                letters = laid.Letters.Select(l => new
                {
                    text = l.Text,
                    line = l.Line + 1,
                    box = new { leftMm = Round(l.Box.MinX), topMm = Round(l.Box.MinY), rightMm = Round(l.Box.MaxX), bottomMm = Round(l.Box.MaxY) },
                    baseline = new { xMm = Round(l.Baseline.X), yMm = Round(l.Baseline.Y), turnDegrees = Round(l.TurnDegrees) },
                }),
            },
        };

        static double Round(double mm) => Math.Round(mm, 3);
    }
}
