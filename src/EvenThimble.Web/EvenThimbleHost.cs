using System.Globalization;
using System.Net;
using System.Net.Sockets;
using System.Reflection;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Planning;
using EvenThimble.Equipment;
using EvenThimble.Storage;
using EvenThimble.Web.Workroom;
using Microsoft.AspNetCore.Connections;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.DataProtection.KeyManagement;
using Microsoft.AspNetCore.Http.Features;
using Microsoft.AspNetCore.StaticFiles;
using Microsoft.Extensions.FileProviders;
using Microsoft.Extensions.Options;
using Serilog;
using Serilog.Events;

namespace EvenThimble.Web;

/// <summary>Puts the application together.</summary>
public static class EvenThimbleHost
{
    /// <summary>The usual port.</summary>
    public const int UsualPort = 5280;

    // Larger than the largest stitch file that is read, so that a larger one gets a sentence rather than a broken connection.
    private const long LargestRequest = 256L * 1024 * 1024;
    private const int LongestRequestLine = 512 * 1024;
    private const int DaysOfLog = 14;
    private const long LargestLog = 8L * 1024 * 1024;

    /// <summary>Runs until it is stopped. 1: it could not be started; the reason is on the error output.</summary>
    public static async Task<int> RunAsync(string[] args)
    {
        if (Maintenance.IsAsked(args)) return Maintenance.Run(args);
        try
        {
            await using var app = Build(args);
            await app.StartAsync();
            Console.WriteLine($"Even Thimble is ready at {app.Urls.First()}");
            if (app.Services.GetRequiredService<Database>().Mended is { } mended) app.Logger.LogWarning("{Mended}", mended);
            app.Logger.LogInformation("Even Thimble {Version} is ready at {Address}", typeof(EvenThimbleHost).Assembly.GetName().Version, app.Urls.First());
            await app.WaitForShutdownAsync();
            return 0;
        }
        catch (IOException e) when (e.InnerException is AddressInUseException)
        {
            await Console.Error.WriteLineAsync("Another program, perhaps another Even Thimble, has this port. Choose one with --port.");
            return 1;
        }
        catch (Exception e) when (e is StorageException or IOException or UnauthorizedAccessException or SocketException or ArgumentException)
        {
            await Console.Error.WriteLineAsync(e.Message);
            return 1;
        }
    }

    /// <summary>
    /// The application. Settings: <c>data</c> (the data folder, "data" below the working folder), <c>port</c> (5280; 0 takes a free one),
    /// <c>demo</c> (true fills an empty data folder with the demo scenario).
    /// </summary>
    public static WebApplication Build(string[] args)
    {
        var builder = WebApplication.CreateBuilder(new WebApplicationOptions { Args = args, ApplicationName = typeof(EvenThimbleHost).Assembly.GetName().Name, ContentRootPath = ContentRoot() });
        var settings = builder.Configuration;
        var port = UsualPort;
        if (settings["port"] is { } typed && !(int.TryParse(typed, NumberStyles.None, CultureInfo.InvariantCulture, out port) && port <= IPEndPoint.MaxPort))
            throw new ArgumentException($"There is no port {typed}. Choose one from 1 to {IPEndPoint.MaxPort} with --port, or 0 for a free one.");
        builder.Logging.ClearProviders();
        var data = Path.GetFullPath(settings["data"] ?? "data");
        builder.Services.AddSerilog((_, log) => log
            .MinimumLevel.Override("Microsoft", LogEventLevel.Warning)
            .MinimumLevel.Override("Microsoft.AspNetCore.DataProtection", LogEventLevel.Error)
            .MinimumLevel.Override("Microsoft.Extensions.Hosting.Internal.Host", LogEventLevel.Fatal) // why it does not start is told in a sentence
            .WriteTo.Console(LogEventLevel.Warning, formatProvider: CultureInfo.InvariantCulture, standardErrorFromLevel: LogEventLevel.Verbose)
            .WriteTo.File(
                Path.Combine(data, "logs", "even-thimble-.log"), formatProvider: CultureInfo.InvariantCulture, rollingInterval: RollingInterval.Day, retainedFileCountLimit: DaysOfLog, fileSizeLimitBytes: LargestLog, rollOnFileSizeLimit: true), preserveStaticLogger: true); // several in one process, as tests have them, each write their own log
        builder.WebHost.ConfigureKestrel(k =>
        {
            k.AddServerHeader = false;
            k.Limits.MaxRequestBodySize = LargestRequest;

            // Longer ones are refused in words, by ourselves.
            k.Limits.MaxRequestLineSize = LongestRequestLine;
            k.ListenLocalhostOnly(port);
        });
        AddServices(builder, data, settings["demo"] == "true");
        var app = builder.Build();
        Use(app);
        return app;
    }

    /// <summary>Files on their way in are buffered in the data folder, where leftovers of a crash are found and swept at the next start. It holds for the whole process, and is said before the first of them comes.</summary>
    public static void UseBuffersIn(string[] args)
    {
        var settings = new ConfigurationBuilder().AddCommandLine(args).Build();
        var buffers = Path.Combine(Path.GetFullPath(settings["data"] ?? "data"), "uploads");
        try
        {
            Directory.CreateDirectory(buffers);
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            return; // the database will say so
        }

        Environment.SetEnvironmentVariable("ASPNETCORE_TEMP", buffers);
    }

    private static void AddServices(WebApplicationBuilder builder, string dataFolder, bool demo)
    {
        var services = builder.Services;
        services.Configure<FormOptions>(f => f.MultipartBodyLengthLimit = LargestRequest);
        services.AddAntiforgery(a =>
        {
            a.HeaderName = "X-Thimble-Token";
            a.Cookie.Name = "thimble-token";
        });
        // Keys of the posts' tokens lie with the rest of the data; they guard against other pages only, so they are kept as they are.
        services.AddDataProtection().SetApplicationName("even-thimble");
        services.AddSingleton<IConfigureOptions<KeyManagementOptions>>(s => new ConfigureOptions<KeyManagementOptions>(o => o.XmlRepository = new SoundKeys(Path.Combine(dataFolder, "keys"), s.GetRequiredService<ILogger<SoundKeys>>())));
        services.AddRazorPages(o => o.Conventions.ConfigureFilter(new FieldsInWords()).ConfigureFilter(new RefusalsInWords()));
        services.AddHttpContextAccessor();
        services.AddSingleton(TimeProvider.System);
        services.AddSingleton(_ => DataFolder.Take(dataFolder));
        services.AddSingleton(s => Database.Open(s.GetRequiredService<DataFolder>().Path));
        services.AddHostedService<DailyBackup>();
        services.AddSingleton<HoopStore>();
        services.AddSingleton<RosterStore>();
        services.AddSingleton<SewingQueue>();
        services.AddSingleton(s => new MachineCatalogue(StandInMachines.Catalogue.All) { Usual = StandInMachines.Catalogue.Usual, OwnHoops = () => s.GetRequiredService<HoopStore>().All });
        services.AddSingleton<BlobStore>();
        services.AddSingleton<ShapeStore>();
        services.AddSingleton<DesignStore>();
        services.AddSingleton<JobStore>();
        services.AddSingleton<ThreadStore>();
        services.AddSingleton<RackStore>();
        services.AddSingleton<ShoppingStore>();
        services.AddSingleton<NeedleStore>();
        services.AddSingleton<ThreadBox>();
        services.AddSingleton<ClothStore>();
        services.AddSingleton<FontStore>();
        services.AddSingleton<LetterFonts>();
        services.AddSingleton<LetterSetStore>();
        services.AddSingleton<LetterSets>();
        services.AddSingleton<MonogramLooks>();
        services.AddSingleton<ILetterFaces>(s => s.GetRequiredService<LetterFonts>());
        services.AddSingleton(_ => new StitchMemory());
        services.AddSingleton<DrawingTray>();
        services.AddSingleton<StitchLooks>();
        services.AddSingleton<JobCase>();
        services.AddSingleton(s => new EquipmentRoom(s.GetRequiredService<Database>().Folder, s.GetRequiredService<MachineCatalogue>()));
        services.AddSingleton<Importer>();
        services.AddSingleton<JobDesk>();
        services.AddSingleton<HandOver>();
        services.AddSingleton<NameDesk>();
        services.AddSingleton<CutDesk>();
        services.AddSingleton(new DemoScenario(demo));
    }

    private static void Use(WebApplication app)
    {
        app.Services.GetRequiredService<DemoScenario>().FillIfEmpty(app.Services);
        app.UseMiddleware<SafeHeaders>();
        app.UseStatusCodePagesWithReExecute("/sorry", "?code={0}");
        app.UseExceptionHandler(SentenceForErrors.Options);
        app.UseStaticFiles(new StaticFileOptions { OnPrepareResponse = AlwaysAsked });
        app.UseStaticFiles(ScriptsOfPages(app.Environment.ContentRootPath));
        app.UseMiddleware<FormsInWords>();
        app.UseMiddleware<WaitingRoom>();
        app.UseMiddleware<PatientWork>();
        app.UseRouting();
        app.UseAntiforgery();
        app.MapRazorPages();
        app.MapJobFiles();
        app.MapDesignFiles();
        app.MapFontFiles();
        app.MapLetterSetFiles();
        app.MapGet("/healthz", () => Results.Text("ready"));
    }

    /// <summary>Scripts lie beside the pages they belong to; nothing else of those folders is served.</summary>
    private static StaticFileOptions ScriptsOfPages(string contentRoot) => new()
    {
        RequestPath = "/pages",
        FileProvider = new PhysicalFileProvider(Path.Combine(contentRoot, "Pages")),
        ContentTypeProvider = new FileExtensionContentTypeProvider(new Dictionary<string, string> { [".js"] = "text/javascript" }),
        OnPrepareResponse = AlwaysAsked,
    };

    private static void AlwaysAsked(StaticFileResponseContext file) => file.Context.Response.Headers.CacheControl = "no-cache";

    private static void ListenLocalhostOnly(this Microsoft.AspNetCore.Server.Kestrel.Core.KestrelServerOptions kestrel, int port) =>
        kestrel.Listen(IPAddress.Loopback, port);

    /// <summary>Scripts and styles lie beside a published program, else in the source folder; wherever it is started from.</summary>
    private static string ContentRoot()
    {
        if (Directory.Exists(Path.Combine(AppContext.BaseDirectory, "wwwroot"))) return AppContext.BaseDirectory;
        return typeof(EvenThimbleHost).Assembly.GetCustomAttributes<AssemblyMetadataAttribute>().FirstOrDefault(a => a.Key == "SourceFolder")?.Value ?? AppContext.BaseDirectory;
    }
}
