using System.Collections.Immutable;
using System.CommandLine;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Monograms;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;
using EvenThimble.Rendering;

namespace EvenThimble.Cli;

/// <summary>Makes monograms of letters or names.</summary>
internal sealed class MonogramCommand : FilesCommand
{
    private const double PixelsPerMm = 10;
    private static readonly SewingThread Thread = MadeUpCharts.All[0].Threads[0];
    private readonly Outputs _outputs = new();
    private readonly Option<string> _layout = new("--layout") { Description = $"How letters are laid: {string.Join(", ", MonogramLayout.All.Select(l => l.Id))}.", DefaultValueFactory = _ => MonogramLayout.All[0].Id };
    private readonly Option<string?> _frame = new("--frame") { Description = $"What is around them: {string.Join(", ", MonogramFrame.All.Select(f => f.Id))}." };
    private readonly Option<string> _form = new("--form") { Description = $"The form of that: {string.Join(", ", FrameForms.All.Select(f => f.InWords()))}.", DefaultValueFactory = _ => FrameForm.AsLetters.InWords() };
    private readonly Option<double> _size = new("--size") { Description = "The longer side of all of it, mm.", DefaultValueFactory = _ => 70 };
    private readonly Option<double> _gap = new("--gap") { Description = "Between letters and frame, mm.", DefaultValueFactory = _ => 3 };
    private readonly Option<string> _order = new Option<string>("--order") { Description = "Where the family's initial of a name stands.", DefaultValueFactory = _ => "middle" }.AcceptOnlyFromAmong("middle", "last");
    private readonly Option<string> _font = LetterCommand.FontOption();
    private readonly Option<string> _cloth = new("--cloth") { Description = "What it is sewn on, by name.", DefaultValueFactory = _ => ClothProfiles.Cotton.Name };
    private readonly Option<int> _revision = StitchFiles.Revision();

    public MonogramCommand(TextWriter says, TextWriter errors)
        : base("monogram", "Make a monogram.", "Letters, one to three, or a name whose initials are taken.", says, errors)
    {
        foreach (var option in new Option[] { _layout, _frame, _form, _size, _gap, _order, _font, _cloth, _revision }) Add(option);
        _outputs.AddTo(this);
    }

    protected override IEnumerable<Work> Works(ParseResult parsed)
    {
        var cloth = Cloths.Named(parsed.GetValue(_cloth)!);
        var layout = MonogramLayout.Find(parsed.GetValue(_layout)) ?? throw new UsageException($"“{parsed.GetValue(_layout)}” is no layout; there are {string.Join(", ", MonogramLayout.All.Select(l => l.Id))}.");
        var frame = parsed.GetValue(_frame) is { } name ? MonogramFrame.Find(name) ?? throw new UsageException($"“{name}” is no frame; there are {string.Join(", ", MonogramFrame.All.Select(f => f.Id))}.") : null;
        var form = FrameForms.All.Where(f => f.InWords() == parsed.GetValue(_form)).Select(f => (FrameForm?)f).FirstOrDefault() ?? throw new UsageException($"“{parsed.GetValue(_form)}” is no form; there are {string.Join(", ", FrameForms.All.Select(f => f.InWords()))}.");
        var face = new Lazy<Core.Lettering.LetterFace>(() => LetterCommand.FaceOf(parsed.GetValue(_font)!));
        foreach (var input in parsed.GetValue(Inputs)!)
        {
            var path = _outputs.For(parsed, Titles.FileName(input) + ".text", ".evth");
            var picture = path.EndsWith(".png", StringComparison.OrdinalIgnoreCase);
            var kind = StitchFiles.KindOf(picture ? Path.ChangeExtension(path, ".evth") : path, parsed.GetValue(_revision));
            yield return new(input, path, () =>
            {
                var order = parsed.GetValue(_order) == "last" ? InitialOrder.AsRead : InitialOrder.FamilyInMiddle;
                var wish = new MonogramWish(Initials.Of(input, order), layout) { SizeMm = parsed.GetValue(_size), Frame = frame, Form = form, FrameGapMm = parsed.GetValue(_gap), Order = order, Name = Initials.IsName(input) ? input : null };
                var content = MonogramContent.Lay(wish, face.Value, new(StitchWay.Automatic, Thread, Thread), cloth);
                var job = new AddMonogram(content, Placement.AsItCame).Apply(Job.New(StitchFiles.Machines.HoopFor(default)) with { Cloth = Cloth.Of(cloth) });
                var file = StitchFiles.FileOf(job, new StitchFiles.Held([])) with { Title = AddMonogram.NameOf(content) };
                _outputs.Write(parsed, path, () => picture ? ThreadPainter.PictureAt(file, PixelsPerMm, cloth.UsualColour, lines: false) : StitchFiles.Write(kind, file));
                return Told(path, file, content, picture ? [] : StitchFormats.Losses(kind, file));
            });
        }
    }

    private static WorkResult Told(string path, Core.Stitches.StitchFile file, MonogramContent content, ImmutableArray<string> losses)
    {
        var told = StitchFiles.Told(path, file, losses);
        return told with
        {
            Figures = new
            {
                file = told.Figures,
                letters = content.Wish.Letters,
                layout = content.Wish.Layout.Id,
                frame = content.Wish.Frame?.Id,
                sizeMm = content.Wish.SizeMm,
                parts = content.Parts.Select(p => new { name = p.Name, role = p.Role.ToString(), box = Rounded(((Core.Jobs.PartSource.Drawn)p.Source).Shape.Moved(p.At.Place).Bounds) }),
            },
        };

        static object Rounded(Box b) => new { leftMm = Math.Round(b.MinX, 3), topMm = Math.Round(b.MinY, 3), rightMm = Math.Round(b.MaxX, 3), bottomMm = Math.Round(b.MaxY, 3) };
    }
}
