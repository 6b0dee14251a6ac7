#:project ../src/EvenThimble.Core.Files/EvenThimble.Core.Files.csproj
#:project ../src/EvenThimble.Rendering/EvenThimble.Rendering.csproj
#:property PublishAot=false
#:property NuGetAudit=false
#:property RestorePackagesWithLockFile=false
#:property ManagePackageVersionsCentrally=true
#:property TreatWarningsAsErrors=false

// Reads drawings that nobody here made and compares pictures of what was read with those of a renderer of its own (rsvg-convert).
//   dotnet run tools/measure-drawings.cs -- [--sample N] [--out FILE.md] [--list FILE] [PACKAGE ...]
// Packages are Debian's and have to be installed; without any: openclipart-svg tango-icon-theme gnome-icon-theme librsvg2-tests.
using System.Diagnostics;
using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;
using EvenThimble.Core.Files.Drawing;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Text;
using EvenThimble.Core.Work;
using SkiaSharp;

const int Width = 240;
const int Alike = 24;
CultureInfo.CurrentCulture = CultureInfo.InvariantCulture;
var (sample, output, list, packages) = (int.MaxValue, (string?)null, (string?)null, new List<string>());
for (var i = 0; i < args.Length; i++)
{
    if (args[i] == "--sample") sample = int.Parse(args[++i], CultureInfo.InvariantCulture);
    else if (args[i] == "--out") output = args[++i];
    else if (args[i] == "--list") list = args[++i];
    else packages.Add(args[i]);
}

if (packages.Count == 0) packages = ["openclipart-svg", "tango-icon-theme", "gnome-icon-theme", "librsvg2-tests"];
var random = new Random(11);
var found = new List<Found>();
foreach (var package in packages)
{
    var files = Run("dpkg", "-L", package).Split('\n').Where(f => f.EndsWith(".svg", StringComparison.Ordinal) || f.EndsWith(".svgz", StringComparison.Ordinal)).Where(f => new FileInfo(f) is { Exists: true, LinkTarget: null }).ToList();
    if (files.Count > sample) files = [.. files.OrderBy(_ => random.Next()).Take(sample)];
    foreach (var file in files) found.Add(Measure(package, file));
    Console.Error.WriteLine($"{package}: {files.Count} files");
}

if (list is not null) File.WriteAllLines(list, found.Select(f => $"{f.Package}\t{f.File}\t{(f.HoldsShape ? "shape" : "none")}\t{f.Seconds:0.00}\t{f.Same:0.0}\t{f.Says}"));
var text = Table();
Console.WriteLine(text);
if (output is not null) File.WriteAllText(output, text);

string Table()
{
    var t = new StringBuilder();
    t.AppendLine("# Drawings of others").AppendLine();
    t.AppendLine("Made by `dotnet run tools/measure-drawings.cs -- --out docs/drawings.md` from SVG files of public Debian packages. *Hold a shape*: files with a path or basic shape of which `rsvg-convert` paints something. *The same*: pixels of a picture 240 pixels wide whose red, green and blue differ by at most 24 from its picture of the same file; blends become one colour here, text and pictures are left out, so only flat drawings can be the same throughout.").AppendLine();
    t.AppendLine("| package | files | hold a shape | of these read | over 2 s | slowest | the same, median | of flat ones, median |");
    t.AppendLine("|---|---|---|---|---|---|---|---|");
    foreach (var group in found.GroupBy(f => f.Package).Append(found.GroupBy(_ => "all").First()))
    {
        var shapes = group.Where(f => f.HoldsShape).ToList();
        var read = shapes.Where(f => f.Same is not null).ToList();
        t.AppendLine($"| {group.Key} | {group.Count():N0} | {shapes.Count:N0} | {read.Count:N0} ({100.0 * read.Count / Math.Max(1, shapes.Count):0.0} %) | {group.Count(f => f.Seconds > 2)} | {group.Max(f => f.Seconds):0.0} s | {Median(read.Select(f => f.Same!.Value)):0.0} % | {Median(read.Where(f => f.IsFlat).Select(f => f.Same!.Value)):0.0} % |");
    }

    t.AppendLine().AppendLine("Why the others are not read:").AppendLine().AppendLine("| files | reason |").AppendLine("|---|---|");
    foreach (var reason in found.Where(f => f.HoldsShape && f.Same is null).GroupBy(f => Regex.Replace(f.Says, "[0-9][0-9,.]*", "n")).OrderByDescending(g => g.Count()).Take(12)) t.AppendLine($"| {reason.Count()} | {reason.Key} |");
    return t.ToString();
}

static double Median(IEnumerable<double> values) => values.Order().ToList() is { Count: > 0 } v ? v[v.Count / 2] : double.NaN;

static Found Measure(string package, string file)
{
    var bytes = File.ReadAllBytes(file);
    var reference = Path.GetTempFileName();
    Run("timeout", "20", "rsvg-convert", "-w", Width.ToString(CultureInfo.InvariantCulture), "--background-color=white", "-o", reference, file);
    using var theirs = new FileInfo(reference).Length > 0 ? SKBitmap.Decode(reference) : null;
    File.Delete(reference);
    var head = bytes is [0x1F, 0x8B, ..] ? "<path" : Encoding.UTF8.GetString(bytes);
    var holds = theirs is not null && Regex.IsMatch(head, "<([a-z]+:)?(path|rect|circle|ellipse|line|polyline|polygon)\\b") && theirs.Pixels.Any(p => p.Red < 250 || p.Green < 250 || p.Blue < 250);
    var clock = Stopwatch.StartNew();
    try
    {
        SvgDrawing drawing;
        using (WorkBudget.Begin(TimeSpan.FromSeconds(30))) drawing = SvgDrawing.Read(bytes);
        var seconds = clock.Elapsed.TotalSeconds;
        var flat = !drawing.Notes.Any(n => n.Contains("blend", StringComparison.Ordinal) || n.Contains("pattern", StringComparison.Ordinal) || n.Contains("Text", StringComparison.Ordinal) || n.Contains("Pictures", StringComparison.Ordinal) || n.Contains("clip", StringComparison.Ordinal));
        return new(package, file, holds, theirs is null ? null : Same(drawing, theirs), seconds, flat, string.Join(' ', drawing.Notes));
    }
    catch (RefusedException e)
    {
        return new(package, file, holds, null, clock.Elapsed.TotalSeconds, false, e.Message);
    }
    catch (Exception e)
    {
        return new(package, file, holds, null, clock.Elapsed.TotalSeconds, false, $"CRASH {e.GetType().Name} {e.Message}");
    }
}

static double Same(SvgDrawing drawing, SKBitmap theirs)
{
    using var ours = new SKBitmap(new SKImageInfo(theirs.Width, theirs.Height, SKColorType.Rgba8888, SKAlphaType.Premul));
    using (var canvas = new SKCanvas(ours))
    {
        canvas.Clear(SKColors.White);
        canvas.Translate(theirs.Width / 2f, theirs.Height / 2f);
        canvas.Scale((float)Math.Min(theirs.Width / drawing.Width, theirs.Height / drawing.Height));
        foreach (var shape in drawing.Shapes)
        {
            using var builder = new SKPathBuilder { FillType = shape.Shape.Rule == Inside.OddCrossings ? SKPathFillType.EvenOdd : SKPathFillType.Winding };
            foreach (var outline in shape.Shape.Paths)
            {
                var points = outline.Flattened();
                if (points.Count == 0) continue;
                builder.MoveTo((float)points[0].X, (float)points[0].Y);
                foreach (var p in points.Skip(1)) builder.LineTo((float)p.X, (float)p.Y);
                if (outline.Closed) builder.Close();
            }

            using var path = builder.Detach();
            using var paint = new SKPaint { IsAntialias = true, Color = new(shape.Colour.R, shape.Colour.G, shape.Colour.B), Style = shape.LineWidth is null ? SKPaintStyle.Fill : SKPaintStyle.Stroke, StrokeWidth = (float)(shape.LineWidth ?? 0) };
            canvas.DrawPath(path, paint);
        }
    }

    var (a, b) = (ours.Pixels, theirs.Pixels);
    var same = 0;
    for (var i = 0; i < a.Length; i++)
        if (Math.Abs(a[i].Red - b[i].Red) <= Alike && Math.Abs(a[i].Green - b[i].Green) <= Alike && Math.Abs(a[i].Blue - b[i].Blue) <= Alike) same++;
    return 100.0 * same / a.Length;
}

static string Run(string program, params string[] arguments)
{
    using var process = Process.Start(new ProcessStartInfo(program, arguments) { RedirectStandardOutput = true, RedirectStandardError = true })!;
    process.ErrorDataReceived += (_, _) => { };
    process.BeginErrorReadLine();
    var said = process.StandardOutput.ReadToEnd();
    process.WaitForExit();
    return said;
}

internal sealed record Found(string Package, string File, bool HoldsShape, double? Same, double Seconds, bool IsFlat, string Says);
