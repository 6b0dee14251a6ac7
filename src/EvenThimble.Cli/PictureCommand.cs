using System.CommandLine;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Text;
using EvenThimble.Rendering;

namespace EvenThimble.Cli;

/// <summary>Draws stitch files as thread, or as plain lines.</summary>
internal sealed class PictureCommand : FilesCommand
{
    private const double BorderMm = 2;
    private readonly Outputs _outputs = new();
    private readonly Option<double> _scale = new("--px-per-mm") { Description = "Pixels to the millimetre.", DefaultValueFactory = _ => 10 };
    private readonly Option<bool> _lines = new("--lines") { Description = "Plain lines rather than thread." };
    private readonly Option<string> _cloth = new("--cloth") { Description = "What it lies on, by name.", DefaultValueFactory = _ => ClothProfiles.Cotton.Name };

    public PictureCommand(TextWriter says, TextWriter errors)
        : base("picture", "Draw stitch files as pictures (PNG).", "Stitch files.", says, errors)
    {
        foreach (var option in new Option[] { _scale, _lines, _cloth }) Add(option);
        _outputs.AddTo(this);
    }

    protected override IEnumerable<Work> Works(ParseResult parsed)
    {
        var (cloth, scale) = (Cloths.Named(parsed.GetValue(_cloth)!), parsed.GetValue(_scale));
        if (!(scale is > 0 and <= 200)) throw new UsageException("There can be up to 200 pixels to the millimetre, and more than none.");
        foreach (var input in parsed.GetValue(Inputs)!)
        {
            var path = _outputs.For(parsed, input, ".png");
            if (!path.EndsWith(".png", StringComparison.OrdinalIgnoreCase)) throw new UsageException("A picture's name ends in .png.");
            yield return new(input, path, () =>
            {
                var file = StitchFiles.Read(input);
                var pixels = (file.Bounds.Width + (2 * BorderMm)) * (file.Bounds.Height + (2 * BorderMm)) * scale * scale;
                if (pixels > ThreadPainter.MostPixels * 0.99) throw new EditRefusedException($"The picture would have {pixels / 1e6:0} million pixels, more than {ThreadPainter.MostPixels / 1_000_000} million. Take fewer to the millimetre.");
                _outputs.Write(parsed, path, () => ThreadPainter.PictureAt(file, scale, cloth.UsualColour, parsed.GetValue(_lines), BorderMm));
                return StitchFiles.Told(path, file, file.Notes);
            });
        }
    }
}
