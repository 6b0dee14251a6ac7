using System.CommandLine;
using EvenThimble.Core.Text;
using EvenThimble.Rendering.Sheets;

namespace EvenThimble.Cli;

/// <summary>A command that puts stitch files on paper.</summary>
internal abstract class PaperCommand : FilesCommand
{
    private readonly Outputs _outputs = new();
    private readonly Option<string> _paper = new("--paper") { Description = "a4 or letter.", DefaultValueFactory = _ => "a4" };

    protected PaperCommand(string name, string description, TextWriter says, TextWriter errors)
        : base(name, description, "Stitch files.", says, errors)
    {
        Add(_paper);
        Hooped.AddTo(this);
        _outputs.AddTo(this);
    }

    /// <summary>The hoops that they lie in.</summary>
    protected HoopedFiles Hooped { get; } = new();

    /// <summary>The pages of a job.</summary>
    protected abstract byte[] Pages(ParseResult parsed, JobSheets sheets, Paper paper);

    protected override IEnumerable<Work> Works(ParseResult parsed)
    {
        var wanted = Hooped.Wanted(parsed);
        var paper = parsed.GetValue(_paper)!.ToLowerInvariant() switch { "a4" => Paper.A4, "letter" => Paper.Letter, var other => throw new UsageException($"There is A4 and Letter paper; “{other}” is neither.") };
        foreach (var input in parsed.GetValue(Inputs)!)
        {
            var path = _outputs.For(parsed, input, ".pdf");
            if (!path.EndsWith(".pdf", StringComparison.OrdinalIgnoreCase)) throw new UsageException("A sheet's name ends in .pdf.");
            yield return new(input, path, () =>
            {
                var sheets = Hooped.Of(parsed, StitchFiles.Read(input), wanted);
                _outputs.Write(parsed, path, () => Pages(parsed, sheets, paper));
                return new([$"{path}: {paper.Name}, {sheets.Hooped.Hoopings.Length} {(sheets.Hooped.IsDivided ? "hoopings" : "hooping")} of {sheets.Machine.Name}, {sheets.Hooped.Hoopings[0].Place.Field.Name}"], new { paper = paper.Name, hoopings = sheets.Hooped.Hoopings.Length, machine = sheets.Machine.Id, hoop = sheets.Hooped.Hoopings[0].Place.Field.Id });
            });
        }
    }
}

/// <summary>The sewing sheet, to have beside the machine.</summary>
internal sealed class SheetCommand(TextWriter says, TextWriter errors) : PaperCommand("sheet", "Write the sewing sheets of stitch files (PDF).", says, errors)
{
    protected override byte[] Pages(ParseResult parsed, JobSheets sheets, Paper paper) => sheets.Sewing(_ => string.Empty, [], DateOnly.FromDateTime(TimeProvider.System.GetLocalNow().DateTime)).ToPdf(paper);
}

/// <summary>Templates at true size, to mark the cloth by.</summary>
internal sealed class TemplateCommand : PaperCommand
{
    private readonly Option<string> _of = new("--of") { Description = "whole, the number of a hooping, or stabilizer.", DefaultValueFactory = _ => "whole" };
    private readonly Option<bool> _mirrored = new("--mirrored") { Description = "Left and right exchanged, to mark from the back." };
    private readonly Option<bool> _marksOnly = new("--marks-only") { Description = "Without the picture." };

    public TemplateCommand(TextWriter says, TextWriter errors)
        : base("template", "Write templates of stitch files at true size (PDF).", says, errors)
    {
        foreach (var option in new Option[] { _of, _mirrored, _marksOnly }) Add(option);
    }

    protected override byte[] Pages(ParseResult parsed, JobSheets sheets, Paper paper) => (sheets.Template(parsed.GetValue(_of)!, parsed.GetValue(_mirrored), parsed.GetValue(_marksOnly))
        ?? throw new StitchFileException($"There is no template “{parsed.GetValue(_of)}” of it; there are {string.Join(", ", sheets.Templates.Select(t => t.Key))}.")).ToPdf(paper);
}
