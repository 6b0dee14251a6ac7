using System.Collections.Immutable;
using System.CommandLine;
using System.Globalization;
using EvenThimble.Core.Files.Letters;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.LetterSets;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Rendering;

namespace EvenThimble.Cli;

/// <summary>Writes text with a letter set: an alphabet that came as stitch files, one a letter.</summary>
internal sealed class WordCommand : FilesCommand
{
    private const double PixelsPerMm = 10;
    private readonly Outputs _outputs = new();
    private readonly Option<string> _set = new("--set") { Description = "The letters: a folder of stitch files, a ZIP of them, or a saved letter set (.evset).", Required = true };
    private readonly Option<double?> _height = new("--height") { Description = "Height of capitals, mm; without it they stay as they came." };
    private readonly Option<double?> _width = new("--width") { Description = "Exact width of the block, mm, instead of a height." };
    private readonly Option<bool> _oneThread = new("--one-thread") { Description = "All letters in the thread of most of them, joined into one part." };
    private readonly Option<bool> _apart = new("--apart") { Description = "Each letter a part of its own." };
    private readonly Option<double> _letters = new("--letter-spacing") { Description = "Added between letters, in heights of capitals." };
    private readonly Option<bool> _noOptical = new("--no-optical") { Description = "Without equal white between letters." };
    private readonly Option<int> _revision = StitchFiles.Revision();

    public WordCommand(TextWriter says, TextWriter errors)
        : base("word", "Write text with a letter set.", "Texts; \\n begins a new line.", says, errors)
    {
        foreach (var option in new Option[] { _set, _height, _width, _oneThread, _apart, _letters, _noOptical, _revision }) Add(option);
        _outputs.AddTo(this);
    }

    protected override IEnumerable<Work> Works(ParseResult parsed)
    {
        if (parsed.GetValue(_height) is not null && parsed.GetValue(_width) is not null) throw new UsageException("A word is made as high or as wide as wanted, not both: its proportions are kept.");
        var set = new Lazy<LetterSet>(() => SetOf(parsed.GetValue(_set)!));
        foreach (var input in parsed.GetValue(Inputs)!)
        {
            var text = input.Replace("\\n", "\n", StringComparison.Ordinal);
            var path = _outputs.For(parsed, Titles.FileName(text.ReplaceLineEndings(" ")) + ".text", ".evth");
            var picture = path.EndsWith(".png", StringComparison.OrdinalIgnoreCase);
            var kind = StitchFiles.KindOf(picture ? Path.ChangeExtension(path, ".evth") : path, parsed.GetValue(_revision));
            yield return new(input, path, () =>
            {
                var content = ContentOf(parsed, text, set.Value);
                var (job, designs) = (new AddLettering(content, Placement.AsItCame).Apply(Job.New(StitchFiles.Machines.HoopFor(default))), set.Value.Files.Select(f => f.Letter?.Design).OfType<StitchFile>());
                var file = StitchFiles.FileOf(job, new StitchFiles.Held(designs)) with { Title = Titles.Clean(text.ReplaceLineEndings(" ")) };
                _outputs.Write(parsed, path, () => picture ? ThreadPainter.PictureAt(file, PixelsPerMm, Core.Craft.Cloth.Usual.Colour, lines: false) : StitchFiles.Write(kind, file));
                return Told(path, file, content, set.Value, picture ? [] : StitchFormats.Losses(kind, file));
            });
        }
    }

    private LetterSetContent ContentOf(ParseResult parsed, string text, LetterSet set)
    {
        var wish = new LetteringWish(text)
        {
            CapitalMm = parsed.GetValue(_height) ?? Math.Clamp(set.Nearest(parsed.GetValue(_width) is null ? double.MaxValue : 1).CapitalMm, LetteringWish.Capitals.Least, LetteringWish.Capitals.Most),
            WidthMm = parsed.GetValue(_width),
            LetterSpacing = parsed.GetValue(_letters),
            OpticalSpacing = !parsed.GetValue(_noOptical),
        };
        wish.Check();
        var content = LetterSetContent.Lay(wish, set, new(null, !parsed.GetValue(_apart)));
        return parsed.GetValue(_oneThread) ? content with { How = new(content.ThreadsAsCame[0], !parsed.GetValue(_apart)) } : content;
    }

    private static LetterSet SetOf(string path)
    {
        var name = Path.GetFileNameWithoutExtension(path.TrimEnd('/', '\\'));
        if (Directory.Exists(path)) return LetterSet.Of(LetterSetArchive.Read(name, LetterSetFiles.OfFolder(path)).Set);
        if (File.Exists(path)) return LetterSet.Of(LetterSetArchive.Read(name, LetterSetFiles.OfZip(StitchFiles.Bytes(path, LetterSetFiles.LargestAltogether))).Set);
        throw new StitchFileException($"There is no folder and no archive {path}.");
    }

    private static IEnumerable<string> NotesOn(LetterSetContent content, LetterSet set)
    {
        if (content.Missing.Length > 0) yield return $"{set.Name} has no {string.Join(' ', content.Missing)}; a gap is left there.";
        foreach (var taken in set.Files.Where(f => f.Trouble is not null)) yield return $"{taken.File.Path}: {taken.Trouble}";
        foreach (var letter in set.Files.Select(f => f.Letter).OfType<SetLetter>())
        {
            if (letter.OffMm != 0) yield return $"{letter.Path}: “{letter.Character}” lay {Mm(Math.Abs(letter.OffMm))} {(letter.OffMm > 0 ? "below" : "above")} the baseline of the others and is put on it.";
            if (letter.OddThread) yield return $"{letter.Path}: “{letter.Character}” is in another thread than the others, {letter.MainThread.Label}.";
        }

        static string Mm(double mm) => $"{mm.ToString("0.0#", CultureInfo.InvariantCulture)} mm";
    }

    private static WorkResult Told(string path, StitchFile file, LetterSetContent content, LetterSet set, ImmutableArray<string> losses)
    {
        var told = StitchFiles.Told(path, file, [.. NotesOn(content, set), .. losses]);
        var baselines = set.Files.Select(f => f.Letter).OfType<SetLetter>().ToLookup(l => l.Design.Stitches.Hash);
        return told with
        {
            Figures = new
            {
                file = told.Figures,
                set = set.Name,
                capitalMm = Math.Round(content.CapitalMm, 3),
                missing = content.Missing,
                sizes = set.Sizes.Select(s => new { capitalMm = Math.Round(s.CapitalMm, 3), letters = s.Letters.Count }),
                letters = content.Letters.Select(l =>
                {
                    var letter = baselines[l.Stitches].First(b => b.Character == l.Text);
                    var box = Box.Around(Corners(letter.Ink.Box).Select(l.At.Place));
                    return new
                    {
                        text = l.Text,
                        from = letter.Path,
                        box = new { leftMm = Round(box.MinX), topMm = Round(box.MinY), rightMm = Round(box.MaxX), bottomMm = Round(box.MaxY) },
                        baselineMm = Round(l.At.Place(new(letter.Ink.Box.MinX, letter.BaselineY)).Y),
                        times = Math.Round(l.At.Size.Across, 5),
                    };
                }),
            },
        };

        static double Round(double mm) => Math.Round(mm, 3);
        static Point[] Corners(Box b) => [new(b.MinX, b.MinY), new(b.MaxX, b.MinY), new(b.MaxX, b.MaxY), new(b.MinX, b.MaxY)];
    }
}
